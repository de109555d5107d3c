import { fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes, useLocation } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { SessionGate } from '../shell/session';
import { draw, problem, SIGNED, serve, TestStream } from '../testing/page';
import { FrontPage, shown } from './FrontPage';
import { NO_OWN } from './useOwnPortal';

function tile(name: string, offered: string | null = null): Schemas['TileView'] {
  return {
    id: `t-${name}`,
    name,
    line: '',
    picture: 'key',
    hue: 'tide',
    offered,
    contact: '',
    whom: [],
    apart: false,
    app: '',
    nicknames: [],
    tidings: '',
    ends: null,
  };
}

const PAGE: Schemas['PageView'] = {
  sections: [
    { id: 'c1', name: 'Counter', line: 'For the counter', tiles: [tile('Farebox'), tile('Ropes')] },
    { id: 'c2', name: 'More', line: '', tiles: [tile('Coin House', 'e9')] },
    { id: null, name: '', line: '', tiles: [tile('Locker')] },
  ],
  notice: '',
  whom: '',
  ends: [],
  waiting: 0,
  recent: [],
  own: NO_OWN,
};

const STAFF = { ...SIGNED, signed: { ...SIGNED.signed, powers: [], given: 'Oda' } };

function Where() {
  return <p>at {useLocation().pathname}</p>;
}

function open(page: () => Schemas['PageView']) {
  const asked = serve({ 'GET /api/front': () => ({ body: { session: STAFF, page: page() } }) });
  draw(
    <SessionGate>
      <Routes>
        <Route path="/" element={<FrontPage />} />
        <Route path="*" element={<Where />} />
      </Routes>
    </SessionGate>,
  );
  return asked;
}

describe('the front page', () => {
  it('comes with the session in one query, what is in no collection last', async () => {
    const asked = open(() => PAGE);
    const shelf = await screen.findByRole('region', { name: /^Counter/ });
    expect(within(shelf).getAllByRole('link')).toHaveLength(2);
    expect(
      within(shelf)
        .getByRole('link', { name: /Farebox/ })
        .getAttribute('href'),
    ).toBe('/go/t-Farebox');
    const shelves = screen.getAllByRole('region');
    expect(shelves.at(-1)?.textContent).toContain('Also yours');
    expect(asked.map((one) => one.what)).toEqual(['GET /api/front']);
    expect(screen.queryByRole('link', { name: 'Desk' })).toBeNull();
  });

  it('takes letters typed anywhere, and Enter opens the first that fits', async () => {
    open(() => PAGE);
    await screen.findByText('Farebox');
    fireEvent.keyDown(document.body, { key: 'c' });
    const field = screen.getByRole('textbox');
    expect(document.activeElement).toBe(field);
    await userEvent.type(field, 'coin');
    const fits = await screen.findByRole('region', { name: '1 tile matches' });
    expect(within(fits).queryByText('Farebox')).toBeNull();
    expect(screen.getByRole('status').textContent).toBe('1 tile matches');
    // Offered: opening it is asking for it.
    await userEvent.type(field, '{Enter}');
    expect(await screen.findByText('at /ask/e9')).toBeTruthy();
  });

  it('says what to do when nothing fits, and Escape shows all again', async () => {
    open(() => PAGE);
    await screen.findByText('Farebox');
    await userEvent.type(screen.getByRole('textbox'), 'moon');
    const ask = screen.getByRole('link', { name: 'Ask for moon' });
    expect(ask.getAttribute('href')).toBe('/ask?find=moon');
    await userEvent.type(screen.getByRole('textbox'), '{Escape}');
    expect(screen.getByText('Farebox')).toBeTruthy();
  });

  it('keeps typed text when a tile comes by itself', async () => {
    let page = PAGE;
    open(() => page);
    await screen.findByText('Farebox');
    await userEvent.type(screen.getByRole('textbox'), 'f');
    page = {
      ...PAGE,
      sections: [{ id: 'c1', name: 'Counter', line: '', tiles: [tile('Farebox'), tile('Ferry')] }],
      waiting: 2,
    };
    TestStream.open.at(-1)?.tell('moved', { position: 8, topics: ['front'] });
    expect(await screen.findByRole('link', { name: 'Ferry' })).toBeTruthy();
    expect(screen.getByRole<HTMLInputElement>('textbox').value).toBe('f');
    expect(screen.getByText(/2 waiting/)).toBeTruthy();
  });

  it('tells on the page what ends soon, by its last day', async () => {
    open(() => ({
      ...PAGE,
      notice: '',
      whom: '',
      ends: [
        {
          entitlement: {
            id: 'e1',
            title: 'Refund Bench · Approver',
            name: 'Approver',
            line: '',
            sensitivity: 'high',
            app: { id: 'a', name: 'Refund Bench', picture: 'key', hue: 'tide', state: 'open' },
          },
          // The end of 9 January in Oslo.
          until: '2027-01-09T23:00:00Z',
          word: 'e1 1',
          stays: ['Refund Bench · Asker'],
          goes: [],
          askable: true,
        },
      ],
    }));
    const notice = await screen.findByText(/Refund Bench · Approver ends after/);
    expect(notice.parentElement?.textContent).toContain('Refund Bench · Asker stays.');
    expect(notice.textContent).toContain('9');
    expect(notice.textContent).not.toContain('10');
    expect(screen.getByRole('link', { name: 'Ask to keep it' }).getAttribute('href')).toBe(
      '/ask/e1',
    );
  });

  it('says what comes where nothing is held yet', async () => {
    open(() => ({ ...PAGE, sections: [], whom: 'Mina Sato' }));
    expect(await screen.findByText('You have no apps yet')).toBeTruthy();
    // Whom to ask, for somebody who is in no audience at all.
    expect(screen.getByText(/Whom to ask: Mina Sato/)).toBeTruthy();
  });

  it('puts first what is pinned, in its order, not again below it, and leaves out what is hidden', () => {
    const own = {
      ...NO_OWN,
      pinned: ['t-Locker', 't-Gone', 't-Coin House', 't-Farebox'],
      hidden: ['c2'],
    };
    const seen = shown(PAGE.sections, own);
    expect(seen.map((section) => section.id)).toEqual(['pinned', 'c1']);
    // What is not there any more, or only offered, is not there.
    expect(seen[0]?.tiles.map((one) => one.name)).toEqual(['Locker', 'Farebox']);
    expect(seen[1]?.tiles.map((one) => one.name)).toEqual(['Ropes']);
    expect(seen[1]?.line).toMatch(/1 pinned above$/);
  });

  it('pins a tile at once, and takes it back if that is refused', async () => {
    const asked = serve({
      'GET /api/front': () => ({ body: { session: STAFF, page: PAGE } }),
      'PUT /api/my/portal/pinned/t-Ropes': () => ({
        status: 422,
        body: problem('portal.pinned', '40 tiles are close already.', 422),
      }),
    });
    draw(
      <SessionGate>
        <FrontPage />
      </SessionGate>,
    );
    await userEvent.click(await screen.findByRole('button', { name: 'More about Ropes' }));
    await userEvent.click(screen.getByRole('menuitem', { name: 'Pin' }));
    await vi.waitFor(() =>
      expect(asked.map((one) => one.what)).toContain('PUT /api/my/portal/pinned/t-Ropes'),
    );
    // The page is read anew, and says what is so.
    await vi.waitFor(() => expect(screen.queryByRole('region', { name: /^Pinned/ })).toBeNull());
    expect(asked.filter((one) => one.what === 'GET /api/front')).toHaveLength(2);
  });
});
