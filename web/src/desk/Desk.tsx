import '../look/desk.scss';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { Link, Navigate, Route, Routes, useLocation } from 'react-router';
import { EntitlementPage } from '../access/EntitlementPage';
import { PersonHoldingsPage } from '../access/PersonHoldingsPage';
import { RulePage, RulesPage } from '../access/rules/RulesPage';
import { answer, api } from '../api/client';
import { AppPage } from '../apps/AppPage';
import { AppsPage } from '../apps/AppsPage';
import { NewAppPage } from '../apps/NewAppPage';
import { SlipPage } from '../departures/SlipPage';
import { AttributesPage } from '../directory/attributes/AttributesPage';
import { DeliveriesPage } from '../directory/deliveries/DeliveriesPage';
import { DeliveryPage } from '../directory/deliveries/DeliveryPage';
import { GroupPage } from '../directory/groups/GroupPage';
import { GroupsPage } from '../directory/groups/GroupsPage';
import { PeoplePage } from '../directory/people/PeoplePage';
import { PersonPage } from '../directory/people/PersonPage';
import { DocketPage } from '../docket/DocketPage';
import { DraftPage } from '../drafts/DraftPage';
import { DraftsPage } from '../drafts/DraftsPage';
import { Gathering, useWorksWithDrafts } from '../drafts/gathering';
import { Tray } from '../drafts/Tray';
import { HintsPage } from '../holdings/HintsPage';
import { MapPage } from '../holdings/MapPage';
import { QueriesPage } from '../holdings/QueriesPage';
import { QueryPage } from '../holdings/QueryPage';
import { ReportsPage } from '../holdings/ReportsPage';
import { UseOverTimePage } from '../holdings/UseOverTimePage';
import { EntryPage } from '../ledger/EntryPage';
import { LedgerPage } from '../ledger/LedgerPage';
import { LettersPage } from '../letters/LettersPage';
import { ArrangePage } from '../portal/arrange/ArrangePage';
import { BrandPage } from '../portal/BrandPage';
import { usePortalParts } from '../portal/PortalTabs';
import { PortalUsePage } from '../portal/PortalUsePage';
import { WherePage } from '../portal/WherePage';
import { FiguresPage } from '../requests/FiguresPage';
import { FormPage, FormsPage } from '../requests/forms/FormsPage';
import { RoutePage, RoutesPage } from '../requests/routes/RoutesPage';
import { DateInput } from '../shell/DateInput';
import { isTyping } from '../shell/keys';
import { DeskNavLink, useLens, useSetLens } from '../shell/lens';
import { Mark } from '../shell/Mark';
import { useSession } from '../shell/session';
import { useSignOut } from '../shell/signOut';
import { ToMain } from '../shell/ToMain';
import { dayIn, tellDay } from '../shell/times';
import { Waiting } from '../shell/Waiting';
import { SuggestionsPage } from '../suggestions/SuggestionsPage';
import { words } from '../words/en';
import { Find } from './Find';

/** The administrators' place: masthead, sections, and the view that is open. */
export function Desk() {
  const session = useSession();
  const { day } = useLens();
  const setLens = useSetLens();
  const location = useLocation();
  const [finding, setFinding] = useState(false);
  const [keys, setKeys] = useState(false);
  const [ways, setWays, waysPlace] = usePopup();
  const readsPeople = session.has('people.read');
  const people = readsPeople || session.signed.ownsGroups || session.has('people.import');
  const ledger = session.has('ledger.read');
  const { signed, has } = session;
  const worksWithDrafts = useWorksWithDrafts();
  const docket =
    signed.decides ||
    signed.ownsApps ||
    has('apps.edit') ||
    has('requests.step-in') ||
    has('departures.run') ||
    worksWithDrafts;
  const portal = usePortalParts();
  const curates = portal.arranges;
  const portalHome = portal.arranges
    ? '/desk/portal'
    : portal.looks
      ? '/desk/portal/brand'
      : '/desk/portal/where';
  const apps = has('apps.read') || signed.ownsApps;
  const suggestions = has('apps.read') || signed.ownsListings;
  const rules = has('access.rules') || has('access.except') || has('access.read');
  const routes = has('requests.configure');
  const holdings = has('access.read') || signed.ownsApps || signed.leads;
  const finds = people || apps || curates;
  const home = docket
    ? '/desk/docket'
    : holdings
      ? '/desk/holdings'
      : apps
        ? '/desk/apps'
        : readsPeople
          ? '/desk/people'
          : signed.ownsGroups
            ? '/desk/groups'
            : curates
              ? '/desk/portal'
              : suggestions
                ? '/desk/suggestions'
                : ledger
                  ? '/desk/ledger'
                  : '/';

  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) {
        return;
      }
      if (event.key === '/' && finds) {
        event.preventDefault();
        setFinding(true);
      } else if (event.key === '?') {
        event.preventDefault();
        setKeys(true);
      }
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, [finds]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another address closes what is open
  useEffect(() => {
    setFinding(false);
    setWays(false);
  }, [location.pathname]);

  return (
    <div className={day === undefined ? 'desk' : 'desk past'}>
      <ToMain />
      <header className="mast">
        <Link className="word" to="/desk">
          <Mark />
          <span>{words.product}</span>
        </Link>
        <div className={ways ? 'ways open' : 'ways'} ref={waysPlace}>
          <button
            type="button"
            className="ways-open"
            aria-expanded={ways}
            onClick={() => setWays(!ways)}
          >
            {words.shell.menu} <span aria-hidden>▾</span>
          </button>
          <nav aria-label={words.shell.sections}>
            {docket && <DocketLink />}
            {holdings && (
              <DeskNavLink
                to="/desk/holdings"
                className={
                  /^\/desk\/(queries|hints|use|reports)/.test(location.pathname) ? 'active' : ''
                }
              >
                {words.shell.holdings}
              </DeskNavLink>
            )}
            {portal.any && <DeskNavLink to={portalHome}>{words.shell.portal}</DeskNavLink>}
            {(apps || suggestions) && (
              <DeskNavLink
                to={apps ? '/desk/apps' : '/desk/suggestions'}
                className={
                  /^\/desk\/(entitlements|rules|routes|suggestions)/.test(location.pathname)
                    ? 'active'
                    : ''
                }
              >
                {words.shell.apps}
              </DeskNavLink>
            )}
            {people && (
              <DeskNavLink
                to={readsPeople ? '/desk/people' : '/desk/groups'}
                className={underPeople(location.pathname) ? 'active' : ''}
              >
                {readsPeople ? words.shell.people : words.shell.groups}
              </DeskNavLink>
            )}
            {ledger && <DeskNavLink to="/desk/ledger">{words.shell.ledger}</DeskNavLink>}
          </nav>
        </div>
        <span className="grow" />
        {finds && (
          <button type="button" className="find-open" onClick={() => setFinding(true)}>
            <span>{words.shell.find}</span> <kbd aria-hidden>/</kbd>
          </button>
        )}
        <Lens />
        <Own />
      </header>
      {day === undefined ? (
        <div />
      ) : (
        <section className="tense" aria-label={words.shell.asOfLabel}>
          <span>{words.shell.past(tellDay(day))}</span>
          <Button size="sm" variant="outline-primary" onClick={() => setLens(undefined)}>
            {words.shell.asOfBack}
          </Button>
        </section>
      )}
      <Gathering>
        <main className="page" id="main" tabIndex={-1}>
          <Routes>
            {docket && <Route path="docket/:kind?/:id?" element={<DocketPage />} />}
            {has('requests.step-in') && <Route path="requests" element={<FiguresPage />} />}
            {holdings && <Route path="holdings" element={<MapPage />} />}
            {holdings && <Route path="queries" element={<QueriesPage />} />}
            {holdings && <Route path="queries/:id" element={<QueryPage />} />}
            {holdings && <Route path="reports" element={<ReportsPage />} />}
            {holdings && <Route path="hints" element={<HintsPage />} />}
            {(has('use.read') || signed.ownsApps) && (
              <Route path="use" element={<UseOverTimePage />} />
            )}
            {portal.arranges && <Route path="portal" element={<ArrangePage />} />}
            {portal.looks && <Route path="portal/brand" element={<BrandPage />} />}
            {portal.looks && <Route path="portal/emails" element={<LettersPage />} />}
            {portal.arranges && <Route path="portal/use" element={<PortalUsePage />} />}
            {portal.finds && <Route path="portal/where" element={<WherePage />} />}
            {apps && <Route path="apps" element={<AppsPage />} />}
            {has('apps.edit') && <Route path="apps/new" element={<NewAppPage />} />}
            {apps && <Route path="apps/:id" element={<AppPage />} />}
            {(apps || has('access.read')) && (
              <Route path="entitlements/:id" element={<EntitlementPage />} />
            )}
            <Route path="people/:id/holdings" element={<PersonHoldingsPage />} />
            {(has('departures.run') || ledger) && (
              <Route path="departures/:id" element={<SlipPage />} />
            )}
            {readsPeople && <Route path="people" element={<PeoplePage />} />}
            {readsPeople && <Route path="people/:id" element={<PersonPage />} />}
            {people && <Route path="groups" element={<GroupsPage />} />}
            {people && <Route path="groups/:id" element={<GroupPage />} />}
            {session.has('people.import') && (
              <>
                <Route path="deliveries" element={<DeliveriesPage />} />
                <Route path="deliveries/:id" element={<DeliveryPage />} />
              </>
            )}
            {readsPeople && <Route path="attributes" element={<AttributesPage />} />}
            {ledger && <Route path="ledger" element={<LedgerPage />} />}
            {ledger && <Route path="ledger/:position" element={<EntryPage />} />}
            {suggestions && <Route path="suggestions" element={<SuggestionsPage />} />}
            {rules && <Route path="rules" element={<RulesPage />} />}
            {rules && <Route path="rules/:id" element={<RulePage />} />}
            {routes && <Route path="routes" element={<RoutesPage />} />}
            {routes && <Route path="routes/:scope" element={<RoutePage />} />}
            {routes && <Route path="forms" element={<FormsPage />} />}
            {routes && <Route path="forms/:scope" element={<FormPage />} />}
            <Route path="drafts" element={<DraftsPage />} />
            <Route path="drafts/:id" element={<DraftPage />} />
            <Route path="*" element={<Navigate to={home} replace />} />
          </Routes>
        </main>
        <Tray />
        <Waiting />
      </Gathering>
      {finding && <Find onClose={() => setFinding(false)} />}
      <Keys show={keys} onClose={() => setKeys(false)} />
    </div>
  );
}

function DocketLink() {
  const docket = useQuery({
    queryKey: ['docket', false],
    queryFn: () => answer(api.GET('/api/docket', { params: { query: { all: false } } })),
  });
  const waiting = docket.data?.forMe ?? 0;
  return (
    <DeskNavLink to="/desk/docket">
      {words.docket.title}
      {waiting > 0 && (
        <span className="count" title={words.docket.forYou(waiting)}>
          {words.count(waiting)}
        </span>
      )}
    </DeskNavLink>
  );
}

function underPeople(path: string): boolean {
  return /^\/desk\/(people|groups|deliveries|attributes|departures)/.test(path);
}

function Keys({ show, onClose }: { show: boolean; onClose: () => void }) {
  return (
    <Modal show={show} onHide={onClose} aria-labelledby="keys">
      <Modal.Body>
        <h2 id="keys">{words.shell.keys}</h2>
        <dl className="pair">
          {words.shell.keysList.map(([key, sense]) => (
            <div key={key} className="contents">
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{sense}</dd>
            </div>
          ))}
        </dl>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-primary" onClick={onClose}>
          {words.shell.close}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

/** Closes a popup at Escape and at a click elsewhere. */
function usePopup(): [boolean, (open: boolean) => void, React.RefObject<HTMLDivElement | null>] {
  const [open, setOpen] = useState(false);
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!open) {
      return;
    }
    const key = (event: KeyboardEvent) => {
      if (event.key === 'Escape') {
        setOpen(false);
        place.current?.querySelector('button')?.focus();
      }
    };
    const click = (event: MouseEvent) => {
      if (event.target instanceof Node && !place.current?.contains(event.target)) {
        setOpen(false);
      }
    };
    document.addEventListener('keydown', key);
    document.addEventListener('mousedown', click);
    return () => {
      document.removeEventListener('keydown', key);
      document.removeEventListener('mousedown', click);
    };
  }, [open]);
  return [open, setOpen, place];
}

function Lens() {
  const { begins, zone } = useSession();
  const { day } = useLens();
  const setLens = useSetLens();
  const [open, setOpen, place] = usePopup();
  const [wanted, setWanted] = useState(day ?? '');
  if (begins === null) {
    return null;
  }
  const first = dayIn(zone, new Date(begins));
  const today = dayIn(zone, new Date());
  return (
    <div className="lens" ref={place}>
      <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
        {words.shell.asOf} <b>{day === undefined ? words.shell.now : tellDay(day)}</b>
      </button>
      {open && (
        <form
          className="popup"
          onSubmit={(event) => {
            event.preventDefault();
            setLens(wanted === '' || wanted === today ? undefined : wanted);
            setOpen(false);
          }}
        >
          <Form.Group controlId="lens-day">
            <Form.Label>{words.shell.asOfLabel}</Form.Label>
            <DateInput
              named={words.shell.asOfLabel}
              required
              autoFocus
              min={first}
              max={today}
              value={wanted}
              onChange={setWanted}
            />
            <Form.Text>{words.shell.asOfHelp(tellDay(first))}</Form.Text>
          </Form.Group>
          <div className="bar flush room-above">
            <Button type="submit">{words.shell.asOfShow}</Button>
            {day !== undefined && (
              <Button
                variant="outline-primary"
                onClick={() => {
                  setLens(undefined);
                  setOpen(false);
                }}
              >
                {words.shell.asOfBack}
              </Button>
            )}
          </div>
        </form>
      )}
    </div>
  );
}

function Own() {
  const { signed } = useSession();
  const [open, setOpen, place] = usePopup();
  const signOut = useSignOut();
  return (
    <div className="own" ref={place}>
      <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
        {signed.displayed}
      </button>
      {open && (
        <div className="popup">
          {signed.mandates.length > 0 && (
            <p className="dim small inset">{signed.mandates.join(', ')}</p>
          )}
          <Link to="/">{words.portal.front}</Link>
          <Link to="/me">{words.shell.me}</Link>
          <button type="button" className="item" onClick={signOut}>
            {words.shell.signOut}
          </button>
        </div>
      )}
    </div>
  );
}
