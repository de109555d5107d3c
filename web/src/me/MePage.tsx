import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, Problem } from '../api/client';
import { AttributeList, GroupChains } from '../directory/people/PersonParts';
import { PortalFrame } from '../portal/PortalFrame';
import { Deputies } from '../requests/Deputies';
import { isOwn, setOwn } from '../shell/ownDevice';
import { PageHeading } from '../shell/PageHeading';
import { useSession } from '../shell/session';
import { Failure, Loading, ProblemNote } from '../shell/states';
import { TextField } from '../shell/TextField';
import { tellTime } from '../shell/times';
import { useAct } from '../shell/useAct';
import { words } from '../words/en';

/** What everyone may see and do about themselves. */
export function MePage() {
  const me = useQuery({ queryKey: ['me'], queryFn: () => answer(api.GET('/api/me')) });
  return (
    <PortalFrame>
      <PageHeading>{words.me.title}</PageHeading>
      {me.error ? (
        <Failure error={me.error} again={() => me.refetch()} />
      ) : me.data === undefined ? (
        <Loading what={words.me.title} />
      ) : (
        <>
          <section className="part" aria-labelledby="me-data">
            <h2 id="me-data">{words.me.data}</h2>
            <AttributeList person={me.data.person} linked={false} />
            <p className="dim small flush room-above">{words.me.wrong}</p>
          </section>
          <section className="part" aria-labelledby="me-groups">
            <h2 id="me-groups">{words.me.groups}</h2>
            <GroupChains groups={me.data.person.groups} linked={false} none={words.me.noGroups} />
          </section>
          <Deputies person={me.data.person.id} name={me.data.person.displayed} />
          <Sessions sessions={me.data.sessions} />
          <Device />
          <Feed />
          <Password rule={me.data.rule} />
        </>
      )}
    </PortalFrame>
  );
}

/** Whether this device is the person's alone, so that the front page stays here for no network. */
function Device() {
  const { signed } = useSession();
  const [own, setOwnHere] = useState(() => isOwn(signed.person));
  return (
    <section className="part" aria-labelledby="me-device">
      <h2 id="me-device">{words.me.device}</h2>
      <Form.Check
        type="checkbox"
        id="me-own"
        label={words.signOn.ownDevice}
        checked={own}
        onChange={(event) => {
          setOwn(signed.person, event.target.checked);
          setOwnHere(event.target.checked);
        }}
      />
      <p className="small dim">{words.signOn.ownDeviceHelp}</p>
    </section>
  );
}

/** The tiles for the company's own page, by a token that is told once. */
function Feed() {
  const feed = useQuery({
    queryKey: ['my', 'feed'],
    queryFn: () => answer(api.GET('/api/my/feed')),
  });
  const make = useAct(() => answer(api.POST('/api/my/feed')));
  const end = useAct(
    () => answer(api.DELETE('/api/my/feed')),
    () => make.reset(),
  );
  const made = feed.data?.made ?? null;
  const used = feed.data?.used ?? null;
  return (
    <section className="part" aria-labelledby="me-feed">
      <h2 id="me-feed">{words.me.feed}</h2>
      <p className="small dim">{words.me.feedHelp}</p>
      {make.data !== undefined && (
        <div className="note">
          <p>{words.me.feedOnce}</p>
          <code className="wrap">{make.data.token}</code>
          <p className="small dim">{words.me.feedHow(window.location.origin)}</p>
        </div>
      )}
      {made !== null && (
        <p className="small">
          {words.me.feedMade(tellTime(made))}{' '}
          {used === null ? words.me.feedUnused : words.me.feedUsed(tellTime(used))}
        </p>
      )}
      <div className="bar">
        <Button variant="outline-primary" disabled={make.isPending} onClick={() => make.mutate()}>
          {made === null ? words.me.feedMake : words.me.feedAgain}
        </Button>
        {made !== null && (
          <Button variant="outline-danger" disabled={end.isPending} onClick={() => end.mutate()}>
            {words.me.feedEnd}
          </Button>
        )}
      </div>
      <ProblemNote error={make.error ?? end.error} />
    </section>
  );
}

function Sessions({
  sessions,
}: {
  sessions: { address: string; browser: string; since: string; last: string; current: boolean }[];
}) {
  const queries = useQueryClient();
  const others = sessions.filter((session) => !session.current).length;
  const end = useMutation({
    mutationFn: () => answer(api.POST('/api/me/sign-out-everywhere')),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['me'] }),
  });
  return (
    <section className="part" aria-labelledby="me-sessions">
      <h2 id="me-sessions">{words.me.sessions}</h2>
      <ul className="plain">
        {sessions.map((session) => (
          <li key={`${session.since}${session.address}`} className="bar room-below">
            <b>{session.browser}</b>
            <span className="mono">{session.address}</span>
            <span className="dim" title={session.since}>
              {words.me.since(tellTime(session.since))}
            </span>
            {session.current && <span className="tag calm">{words.me.here}</span>}
          </li>
        ))}
      </ul>
      <div className="bar flush room-above">
        {others > 0 ? (
          <Button variant="outline-danger" disabled={end.isPending} onClick={() => end.mutate()}>
            {words.me.everywhere(others)}
          </Button>
        ) : (
          <span className="dim">{words.me.alone}</span>
        )}
        <span role="status">{end.data !== undefined && words.me.ended(end.data.ended)}</span>
      </div>
      <ProblemNote error={end.error} />
    </section>
  );
}

function Password({ rule }: { rule: string }) {
  const queries = useQueryClient();
  const [current, setCurrent] = useState('');
  const [wanted, setWanted] = useState('');
  const change = useMutation({
    mutationFn: () => answer(api.POST('/api/me/password', { body: { current, wanted } })),
    onSuccess: () => {
      setCurrent('');
      setWanted('');
      return queries.invalidateQueries({ queryKey: ['me'] });
    },
  });
  const wrong = (field: string) =>
    change.error instanceof Problem ? change.error.field(field) : undefined;
  return (
    <section className="part" aria-labelledby="me-password">
      <h2 id="me-password">{words.me.password}</h2>
      <p className="small">{rule}</p>
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <TextField
          id="me-current"
          label={words.me.current}
          type="password"
          autoComplete="current-password"
          value={current}
          onChange={setCurrent}
          wrong={wrong('current')}
        />
        <TextField
          id="me-wanted"
          label={words.me.wanted}
          type="password"
          autoComplete="new-password"
          value={wanted}
          onChange={setWanted}
          wrong={wrong('password')}
        />
        <ProblemNote error={change.error} fields={['current', 'password']} />
        <Button type="submit" disabled={change.isPending}>
          {words.me.change}
        </Button>{' '}
        <span role="status">
          {change.data !== undefined && words.me.changed(change.data.ended)}
        </span>
      </Form>
    </section>
  );
}
