import { lazy, Suspense } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { MyHoldingsPage } from './access/MyHoldingsPage';
import { BringPage } from './brought/BringPage';
import { MePage } from './me/MePage';
import { ClosedPage } from './portal/ClosedPage';
import { FrontPage } from './portal/FrontPage';
import { AskOnePage, AskPage } from './requests/AskPage';
import { MyRequestsPage } from './requests/MyRequestsPage';
import { PasswordAgain } from './shell/PasswordAgain';
import { hasDesk, SessionGate, useSession } from './shell/session';
import { Loading } from './shell/states';
import { SignInPage } from './signon/SignInPage';
import { WelcomePage } from './signon/WelcomePage';
import { words } from './words/en';

// The desk is a part of its own, so that staff who only use the portal never load it.
const Desk = lazy(() => import('./shell/Desk').then((part) => ({ default: part.Desk })));

export function App() {
  return (
    <Routes>
      <Route path="/sign-in" element={<SignInPage />} />
      <Route path="/welcome" element={<WelcomePage />} />
      <Route
        path="/*"
        element={
          <SessionGate>
            <PasswordAgain>
              <Inside />
            </PasswordAgain>
          </SessionGate>
        }
      />
    </Routes>
  );
}

function Inside() {
  const { signed } = useSession();
  return (
    <Suspense fallback={<Loading what={words.shell.desk} />}>
      <Routes>
        <Route path="/" element={<FrontPage />} />
        <Route path="/ask" element={<AskPage />} />
        <Route path="/ask/:id" element={<AskOnePage />} />
        <Route path="/requests" element={<MyRequestsPage />} />
        <Route path="/holdings" element={<MyHoldingsPage />} />
        <Route path="/closed/:tile" element={<ClosedPage />} />
        <Route path="/bring" element={<BringPage />} />
        <Route path="/me" element={<MePage />} />
        {hasDesk(signed) && <Route path="/desk/*" element={<Desk />} />}
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}
