import { keepPreviousData, useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { answer, api, type Schemas } from '../api/client';
import { useAddress } from '../shell/addresses';
import { saveCsv } from '../shell/download';
import { Head } from '../shell/Head';
import { DeskLink } from '../shell/lens';
import { PageHeading } from '../shell/PageHeading';
import { Empty, Failure, Loading } from '../shell/states';
import { Table } from '../shell/Table';
import { words } from '../words/en';

type View = Schemas['FiguresView'];
type Decider = Schemas['DeciderFigures'];

const DAYS = [30, 90, 365];

/** How long requests wait, what became of them, and which step or person is slow. */
export function FiguresPage() {
  const [get, set] = useAddress();
  const days = DAYS.find((one) => String(one) === get('days')) ?? 90;
  const found = useQuery({
    queryKey: ['request-figures', days],
    queryFn: () => answer(api.GET('/api/requests/figures', { params: { query: { days } } })),
    placeholderData: keepPreviousData,
  });
  const { data } = found;
  const open = data?.open.reduce((sum, one) => sum + one, 0) ?? 0;
  return (
    <>
      <Head
        kind={<DeskLink to="/desk/docket">{words.figures.kind}</DeskLink>}
        heading={<PageHeading>{words.figures.title}</PageHeading>}
        lead={words.figures.lead(data?.days ?? days)}
        figures={
          data === undefined
            ? []
            : [
                { n: words.count(open), of: words.figures.open },
                { n: words.count(data.given), of: words.figures.granted },
                { n: words.count(data.refused), of: words.figures.refused },
                {
                  n: words.count(data.lapsed),
                  of: words.figures.lapsed,
                  tone: data.lapsed > 0 ? 'wait' : undefined,
                },
                ...(data.pace === null
                  ? []
                  : [
                      {
                        n: words.figures.lasting(data.pace.halfMinutes),
                        of: words.figures.half,
                      },
                    ]),
              ]
        }
      />
      <Form.Group controlId="figures-days" className="bar room-above room-below">
        <Form.Label className="flush">{words.figures.span}</Form.Label>
        <Form.Select
          className="fit"
          value={days}
          onChange={(event) => set({ days: event.target.value })}
        >
          {DAYS.map((one) => (
            <option key={one} value={one}>
              {words.figures.spans[one]}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      {found.error ? (
        <Failure error={found.error} again={() => found.refetch()} />
      ) : data === undefined ? (
        <Loading what={words.figures.title} lines={10} />
      ) : data.deciders.length === 0 && open === 0 ? (
        <Empty title={words.figures.none}>
          {words.figures.over(data.withdrawn, data.overtaken)}
        </Empty>
      ) : (
        <Whole data={data} />
      )}
    </>
  );
}

function Whole({ data }: { data: View }) {
  return (
    <div className="parts">
      <section className="part" aria-labelledby="figures-ages">
        <h2 id="figures-ages">{words.figures.ages}</h2>
        <Table>
          <caption className="visually-hidden">{words.figures.ages}</caption>
          <thead>
            <tr>
              {words.figures.ageLabels.map((label) => (
                <th key={label} scope="col" className="num">
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              {data.open.map((one, index) => (
                <td key={words.figures.ageLabels[index]} className="num">
                  {words.count(one)}
                </td>
              ))}
            </tr>
          </tbody>
        </Table>
        <p className="small dim room-above">{words.figures.over(data.withdrawn, data.overtaken)}</p>
      </section>
      <section className="part" aria-labelledby="figures-steps">
        <h2 id="figures-steps">{words.figures.steps}</h2>
        <p className="small dim">{words.figures.few}</p>
        <Table>
          <caption className="visually-hidden">{words.figures.steps}</caption>
          <thead>
            <tr>
              <th scope="col">{words.figures.step}</th>
              <Paces />
            </tr>
          </thead>
          <tbody>
            {data.steps.map((step) => (
              <tr key={step.as}>
                <th scope="row">{words.figures.asWhat[step.as] ?? step.as}</th>
                <Pace decided={step.decided} took={step.took} />
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
      <section className="part" aria-labelledby="figures-unused">
        <h2 id="figures-unused">{words.figures.unused}</h2>
        <p className="small dim">{words.figures.unusedHelp}</p>
        {data.unused.length === 0 ? (
          <p>{data.days < 60 ? words.figures.unusedShort : words.figures.unusedNone}</p>
        ) : (
          <>
            <Table>
              <caption className="visually-hidden">{words.figures.unused}</caption>
              <thead>
                <tr>
                  <th scope="col">{words.figures.entitlement}</th>
                  <th scope="col" className="num">
                    {words.figures.heldStill}
                  </th>
                  <th scope="col" className="num">
                    {words.figures.unusedOf}
                  </th>
                </tr>
              </thead>
              <tbody>
                {data.unused.map((one) => (
                  <tr key={one.entitlement.id}>
                    <th scope="row">
                      <DeskLink to={`/desk/entitlements/${one.entitlement.id}`}>
                        {one.entitlement.title}
                      </DeskLink>
                    </th>
                    <td className="num">{words.count(one.granted)}</td>
                    <td className="num">{words.count(one.unused)}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
            <Button
              variant="outline-primary"
              className="room-above"
              onClick={() => saveCsv(words.figures.unusedFile, unusedRows(data.unused))}
            >
              {words.figures.unusedSave}
            </Button>
          </>
        )}
      </section>
      <section className="part" aria-labelledby="figures-people">
        <h2 id="figures-people">{words.figures.people}</h2>
        <p className="small dim">{words.figures.slowHelp}</p>
        <Table>
          <caption className="visually-hidden">{words.figures.people}</caption>
          <thead>
            <tr>
              <th scope="col">{words.figures.person}</th>
              <Paces />
              <th scope="col" className="num">
                {words.figures.waiting}
              </th>
              <th scope="col" className="num">
                {words.figures.oldest}
              </th>
            </tr>
          </thead>
          <tbody>
            {data.deciders.map((one) => (
              <tr key={one.who.id}>
                <th scope="row">
                  <DeskLink to={`/desk/people/${one.who.id}`}>{one.who.displayed}</DeskLink>{' '}
                  <span className="dim small">{one.who.unit}</span>{' '}
                  {one.slow && <span className="tag wait">{words.figures.slow}</span>}
                </th>
                <Pace decided={one.decided} took={one.took} />
                <td className="num">{words.count(one.waiting)}</td>
                <td className="num">
                  {one.waiting === 0 ? '–' : words.figures.lasting(one.oldestMinutes)}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
        <Button
          variant="outline-primary"
          className="room-above"
          onClick={() => saveCsv(words.figures.file, rows(data.deciders))}
        >
          {words.figures.save}
        </Button>
      </section>
    </div>
  );
}

function Paces() {
  return (
    <>
      <th scope="col" className="num">
        {words.figures.decided}
      </th>
      <th scope="col" className="num">
        {words.figures.halfIn}
      </th>
      <th scope="col" className="num">
        {words.figures.mostIn}
      </th>
    </>
  );
}

function Pace({ decided, took }: { decided: number; took: Decider['took'] }) {
  return (
    <>
      <td className="num">{words.count(decided)}</td>
      <td className="num">{took === null ? '–' : words.figures.lasting(took.halfMinutes)}</td>
      <td className="num">{took === null ? '–' : words.figures.lasting(took.mostMinutes)}</td>
    </>
  );
}

function unusedRows(unused: View['unused']): string[][] {
  return [
    [words.figures.entitlement, words.figures.heldStill, words.figures.unusedOf],
    ...unused.map((one) => [one.entitlement.title, String(one.granted), String(one.unused)]),
  ];
}

/** The same in minutes, for a spreadsheet. */
function rows(deciders: Decider[]): string[][] {
  const minutes = (what: string) => `${what} (minutes)`;
  return [
    [
      words.figures.person,
      words.figures.decided,
      minutes(words.figures.halfIn),
      minutes(words.figures.mostIn),
      words.figures.waiting,
      minutes(words.figures.oldest),
    ],
    ...deciders.map((one) => [
      one.who.displayed,
      String(one.decided),
      one.took === null ? '' : String(one.took.halfMinutes),
      one.took === null ? '' : String(one.took.mostMinutes),
      String(one.waiting),
      one.waiting === 0 ? '' : String(one.oldestMinutes),
    ]),
  ];
}
