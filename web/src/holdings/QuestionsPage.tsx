import { useQuery } from '@tanstack/react-query';
import { answer, api, type Schemas } from '../api/client';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Failure, Loading } from '../shell/states';
import { tellDay } from '../shell/times';
import { words } from '../words/en';
import { HoldingsTabs } from './HoldingsTabs';

/** Questions that are ready, one's own, and those that others share. */
export function QuestionsPage() {
  const questions = useQuery({
    queryKey: ['questions'],
    queryFn: () => answer(api.GET('/api/questions')),
  });
  return (
    <>
      <HoldingsTabs />
      <header>
        <PageHeading>{words.questions.title}</PageHeading>
        <span className="grow" />
        <DeskLink className="btn btn-outline-primary" to="/desk/reports">
          {words.questions.check}
        </DeskLink>
        <DeskLink className="btn btn-primary" to="/desk/questions/new">
          {words.questions.ask}
        </DeskLink>
      </header>
      {questions.error && <Failure error={questions.error} again={() => questions.refetch()} />}
      {questions.isPending && <Loading what={words.questions.title} />}
      {questions.data !== undefined && (
        <div className="questions">
          <List title={words.questions.ready} questions={questions.data.ready} />
          <List
            title={words.questions.mine}
            questions={questions.data.mine}
            none={words.questions.noneOfMine}
          />
          {questions.data.shared.length > 0 && (
            <List title={words.questions.shared} questions={questions.data.shared} />
          )}
        </div>
      )}
    </>
  );
}

function List({
  title,
  questions,
  none,
}: {
  title: string;
  questions: Schemas['QuestionView'][];
  none?: string;
}) {
  return (
    <section className="sheet" aria-label={title}>
      <h2>{title}</h2>
      {questions.length === 0 && <p className="dim">{none}</p>}
      <ul className="plain">
        {questions.map((one) => (
          <li key={one.id}>
            <DeskLink to={`/desk/questions/${one.id}`}>
              <b>{one.name}</b>
            </DeskLink>
            {one.owner !== null && !one.mine && (
              <span className="dim small"> {words.access.by(one.owner.displayed)}</span>
            )}
            {one.mine && one.shared && <span className="tag">{words.questions.isShared}</span>}
            {one.next !== null && (
              <span className="dim small"> {words.questions.next(tellDay(one.next))}</span>
            )}
            {one.why !== '' && <div className="small">{one.why}</div>}
          </li>
        ))}
      </ul>
    </section>
  );
}
