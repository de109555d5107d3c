import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate, useParams } from 'react-router';
import { answer, api, type Schemas } from '../../api/client';
import { AppsTabs } from '../../apps/AppsTabs';
import { ActDialog } from '../../drafts/ActDialog';
import { Drafted } from '../../drafts/Drafted';
import { type Manner, useForesight } from '../../drafts/foresight';
import { placeOf, useOpenDraft } from '../../drafts/gathering';
import { DeskLink } from '../../shell/lens';
import { PageHeading } from '../../shell/PageHeading';
import { Empty, Failure, Loading } from '../../shell/states';
import { Table } from '../../shell/Table';
import { TextField } from '../../shell/TextField';
import { tellDate } from '../../shell/times';
import { useAct } from '../../shell/useAct';
import { words } from '../../words/en';
import { Breaches } from './Breaches';
import { RuleDialog } from './RuleDialog';

type Rule = Schemas['RuleLine'];

const titles = (side: Rule['one']) => side.map((one) => one.title).join(', ');

/** What no one person may hold together, and who holds it all the same. */
export function RulesPage() {
  const [making, setMaking] = useState(false);
  const rules = useQuery({
    queryKey: ['rules'],
    queryFn: () => answer(api.GET('/api/rules')),
  });
  if (rules.error) {
    return <Failure error={rules.error} again={() => rules.refetch()} />;
  }
  return (
    <>
      <AppsTabs />
      <header>
        <PageHeading>{words.rules.title}</PageHeading>
        <span className="dim">{words.rules.help}</span>
        <span className="grow" />
        {rules.data?.mayEdit && <Button onClick={() => setMaking(true)}>{words.rules.make}</Button>}
      </header>
      <Drafted acts={/^RULE_/} />
      {rules.data === undefined ? (
        <Loading what={words.rules.title} />
      ) : rules.data.rules.length === 0 ? (
        <Empty title={words.rules.none}>{words.rules.noneHelp}</Empty>
      ) : (
        <Table className="lines" aria-label={words.rules.title}>
          <thead>
            <tr>
              <th scope="col">{words.rules.name}</th>
              <th scope="col">{words.rules.oneSide}</th>
              <th scope="col">{words.rules.otherSide}</th>
              <th scope="col">{words.rules.stands}</th>
            </tr>
          </thead>
          <tbody>
            {rules.data.rules.map((rule) => (
              <tr key={rule.id}>
                <td>
                  <DeskLink to={`/desk/rules/${rule.id}`}>{rule.name}</DeskLink>
                  <div className="dim small">{rule.why}</div>
                </td>
                <td>{titles(rule.one)}</td>
                <td>{titles(rule.other)}</td>
                <td>
                  <Standing rule={rule} />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {making && <RuleDialog onClose={() => setMaking(false)} />}
    </>
  );
}

function Standing({ rule }: { rule: Rule }) {
  return (
    <>
      {new Date(rule.from).getTime() > Date.now() && (
        <span className="tag wait">{words.rules.fromDay(tellDate(rule.from))}</span>
      )}{' '}
      {rule.breaches > 0 ? (
        <span className="tag loss">{words.rules.breaches(rule.breaches)}</span>
      ) : (
        <span className="tag calm">{words.rules.kept}</span>
      )}{' '}
      {rule.accepted > 0 && <span className="tag">{words.rules.acceptedMany(rule.accepted)}</span>}
    </>
  );
}

/** One rule with everyone who holds both of its sides. */
export function RulePage({ id: given }: { id?: string }) {
  const parameter = useParams().id;
  const id = given ?? parameter ?? '';
  const navigate = useNavigate();
  const draft = useOpenDraft();
  const [changing, setChanging] = useState(false);
  const [ending, setEnding] = useState(false);
  const [reason, setReason] = useState('');
  const rule = useQuery({
    queryKey: ['rules', id],
    queryFn: () => answer(api.GET('/api/rules/{id}', { params: { path: { id } } })),
  });
  const send = (why: string, manner: Manner) =>
    answer(
      api.DELETE('/api/rules/{id}', {
        params: { path: { id }, query: { reason: why } },
        headers: manner,
      }),
    );
  const foresight = useForesight(
    ['end-rule', id],
    (manner) => send(words.access.ahead, manner),
    ending,
  );
  const end = useAct(
    () => send(reason, foresight.agreed),
    (receipt) => {
      setEnding(false);
      navigate(placeOf(receipt, draft?.id, '/desk/rules'));
    },
  );
  if (rule.error) {
    return <Failure error={rule.error} again={() => rule.refetch()} />;
  }
  if (rule.data === undefined) {
    return <Loading what={words.rules.title} />;
  }
  const view = rule.data;
  return (
    <>
      {given === undefined && <AppsTabs />}
      <header>
        <PageHeading>{view.rule.name}</PageHeading>
        <Standing rule={view.rule} />
        <span className="grow" />
        {view.mayEdit && (
          <>
            <Button variant="outline-primary" onClick={() => setChanging(true)}>
              {words.rules.changeOpen}
            </Button>
            <Button variant="outline-danger" onClick={() => setEnding(true)}>
              {words.rules.end}
            </Button>
          </>
        )}
      </header>
      <Drafted of={id} />
      <section className="part room-below-more">
        <dl className="pair">
          <dt>{words.rules.why}</dt>
          <dd>{view.rule.why}</dd>
          <dt>{words.rules.oneSide}</dt>
          <dd>{titles(view.rule.one)}</dd>
          <dt>{words.rules.otherSide}</dt>
          <dd>{titles(view.rule.other)}</dd>
          <dt>{words.rules.since}</dt>
          <dd>{tellDate(view.rule.from)}</dd>
        </dl>
      </section>
      <h2>{words.rules.present}</h2>
      {view.breaches.length === 0 ? (
        <p className="sheet">{words.rules.nobodyBreaks}</p>
      ) : (
        <Breaches
          breaches={view.breaches}
          rule={{ id, name: view.rule.name }}
          label={words.rules.present}
        />
      )}
      {view.more > 0 && <p className="dim">{words.drafts.moreRows(view.more)}</p>}
      {changing && <RuleDialog rule={view.rule} onClose={() => setChanging(false)} />}
      {ending && (
        <ActDialog
          gathers
          danger
          title={words.rules.endTitle(view.rule.name)}
          act={words.rules.end}
          foresight={foresight}
          error={end.error}
          disabled={end.isPending}
          onAct={() => end.mutate()}
          onClose={() => setEnding(false)}
        >
          <TextField
            id="end-rule"
            label={words.groups.why}
            maxLength={500}
            value={reason}
            onChange={setReason}
          />
        </ActDialog>
      )}
    </>
  );
}
