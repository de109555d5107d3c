import { cleanup, configure } from '@testing-library/react';
import { afterAll, afterEach, beforeEach, vi } from 'vitest';
import { gatherInto } from '../api/client';
import { forgetAct } from '../shell/settled';
import { setLocale } from '../words/locale';

// A busy machine is not a fault: what is waited for comes, or the test fails in the end.
configure({ asyncUtilTimeout: 20_000 });

const sizes = ['clientHeight', 'offsetHeight', 'clientWidth', 'offsetWidth'] as const;
const laidOut = sizes.map((name) => {
  const own = Object.getOwnPropertyDescriptor(HTMLElement.prototype, name);
  return [name, own] as const;
});

/** What the tests' browser has beside a real one. */
const { happyDOM } = window as unknown as { happyDOM: { setURL(address: string): void } };
const address = 'http://localhost:3000/';

// All files share one page and one set of modules: what a test leaves is taken away here.
beforeEach(() => {
  happyDOM.setURL(address);
  document.head.innerHTML = '';
  document.body.innerHTML = '';
  localStorage.clear();
  sessionStorage.clear();
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.useRealTimers();
  vi.restoreAllMocks();
  forgetAct();
  gatherInto(undefined);
  setLocale('');
});

afterAll(() => {
  for (const [name, own] of laidOut) {
    if (own === undefined) {
      Reflect.deleteProperty(HTMLElement.prototype, name);
    } else {
      Object.defineProperty(HTMLElement.prototype, name, own);
    }
  }
});
