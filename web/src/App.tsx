import { lazy, Suspense } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { MePage } from './me/MePage';
import { PasswordAgain } from './shell/PasswordAgain';
import { SessionGate, useSession } from './shell/session';
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
  const desk = signed.powers.length > 0 || signed.ownsGroups;
  return (
    <Suspense fallback={<Loading what={words.shell.desk} />}>
      <Routes>
        <Route path="/" element={<MePage />} />
        {desk && <Route path="/desk/*" element={<Desk />} />}
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}
