import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { problem } from '../testing/page';
import { DONE, LENA, openDesk, sent } from '../testing/samples';
import { SuggestionsPage } from './SuggestionsPage';
import { SuggestPage } from './SuggestPage';

const TIDES: Schemas['KeptListing'] = {
  id: 'l1',
  name: 'Tide tables',
  address: 'https://tides.example/',
  category: 'weather',
  line: 'high and low water',
  picture: 'waves',
  hue: 'tide',
  keepers: [LENA],
  mayEdit: true,
  since: '2026-01-01T00:00:00Z',
};
const LEDGERS: Schemas['KeptListing'] = {
  ...TIDES,
  id: 'l2',
  name: 'Port notices',
  address: 'https://ports.example/',
  category: 'harbours',
  line: '',
  keepers: [],
  mayEdit: false,
};
const CADETS: Schemas['SelfServiceLineView'] = {
  audience: {
    everyone: false,
    firstDays: 0,
    people: 30,
    subjects: [{ kind: 'group', id: 'cadets', name: 'Cadets', filter: null, people: 30 }],
  },
  links: 'NOTHING',
  suggest: false,
};

describe('the approved list, on the desk', () => {
  function open(over: Partial<Schemas['SuggestionsPage']> = {}, address = '/desk/suggestions') {
    return openDesk(
      address,
      { '/desk/suggestions': <SuggestionsPage /> },
      {
        'GET /api/self-service': () => ({
          body: {
            listings: [TIDES, LEDGERS],
            rules: [CADETS],
            letIn: [],
            waiting: 0,
            mayEdit: true,
            position: 7,
            ...over,
          },
        }),
        'GET /api/pictures': () => ({ body: { pictures: ['waves'], hues: ['tide'] } }),
        'PUT /api/approved-list/l1': () => ({ body: DONE }),
        'DELETE /api/approved-list/l1': () => ({ body: DONE }),
        'POST /api/approved-list': () => ({ body: DONE }),
        'PUT /api/self-service/lines': () => ({ body: DONE }),
        'GET /api/attributes': () => ({ body: [] }),
      },
      { powers: ['apps.edit'] },
    );
  }

  it('is found by name, kind and address', async () => {
    open();
    await screen.findByText('Tide tables');
    await userEvent.type(screen.getByLabelText('Find by name, kind or address'), 'ports');
    await waitFor(() => expect(screen.queryByText('Tide tables')).toBeNull());
    expect(screen.getByText('Port notices')).toBeTruthy();
    expect(screen.getByText('1 entry')).toBeTruthy();
    cleanup();
    open({}, '/desk/suggestions?kind=weather&find=zz');
    expect(await screen.findByText('Nothing on the list matches')).toBeTruthy();
  });

  it('says who looks after each, and lets only them change it', async () => {
    open({ mayEdit: false });
    const tides = (await screen.findByText('Tide tables')).closest('li');
    expect(tides?.textContent).toContain('looked after by Lena Aho');
    expect(screen.getByText('Port notices').closest('li')?.textContent).toContain('no owner');
    expect(screen.getAllByRole('button').map((one) => one.getAttribute('aria-label'))).toEqual([
      'Change Tide tables',
    ]);
  });

  it('is changed against how it stood, and taken off the list', async () => {
    const asked = open();
    await userEvent.click(await screen.findByRole('button', { name: 'Change Tide tables' }));
    const dialog = await screen.findByRole('dialog', { name: 'Tide tables' });
    const name = within(dialog).getByLabelText<HTMLInputElement>('Name');
    await userEvent.clear(name);
    await userEvent.type(name, 'Tides');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const face = {
      name: 'Tide tables',
      address: 'https://tides.example/',
      line: 'high and low water',
      category: 'weather',
      picture: 'waves',
      hue: 'tide',
    };
    expect(sent(asked)).toEqual([
      {
        what: 'PUT /api/approved-list/l1',
        body: { base: face, wanted: { ...face, name: 'Tides' } },
      },
    ]);
  });

  it('tells the lines of the policy in their order, with the one for all others last', async () => {
    open({ waiting: 2 });
    const policy = await screen.findByRole('complementary', { name: 'Own links and suggestions' });
    const lines = within(within(policy).getAllByRole('list')[0] as HTMLElement).getAllByRole(
      'listitem',
    );
    expect(lines[0]?.textContent).toMatch(/^CadetsNo links of their own\./);
    expect(lines).toHaveLength(2);
    expect(within(policy).getByRole('link', { name: /2/ }).getAttribute('href')).toBe(
      '/desk/docket',
    );
  });

  it('has its lines put in another order and sent as one', async () => {
    const everyone: Schemas['SelfServiceLineView'] = {
      audience: { everyone: true, firstDays: 0, people: 1200, subjects: [] },
      links: 'ANYTHING',
      suggest: true,
    };
    const asked = open({ rules: [CADETS, everyone] });
    await userEvent.click(
      await screen.findByRole('button', { name: 'Change who may add links and suggest apps' }),
    );
    const dialog = await screen.findByRole('dialog');
    const groups = () => within(dialog).getAllByRole('combobox', { name: /links/i });
    expect(groups()).toHaveLength(2);
    const earlier = within(dialog)
      .getAllByRole('button')
      .filter((one) => /up|earlier/i.test(one.textContent ?? ''));
    await userEvent.click(earlier[0] as HTMLElement);
    await userEvent.click(within(dialog).getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(1));
    const body = sent(asked)[0]?.body as Record<
      'base' | 'wanted',
      Schemas['SelfServiceLineForm'][]
    >;
    expect(body.base.map((one) => one.links)).toEqual(['NOTHING', 'ANYTHING']);
    expect(body.wanted.map((one) => one.links)).toEqual(['ANYTHING', 'NOTHING']);
  });
});

describe('what one brings oneself', () => {
  function open(over: Partial<Schemas['MySelfService']> = {}, address = '/suggest', answers = {}) {
    return openDesk(
      address,
      { '/suggest': <SuggestPage /> },
      {
        'GET /api/my/self-service': () => ({
          body: {
            links: 'approved',
            suggest: true,
            total: 1,
            categories: [{ category: 'weather', entries: 1 }],
            listings: [
              {
                id: 'l1',
                name: 'Tide tables',
                address: 'https://tides.example/',
                category: 'weather',
                line: 'high and low water',
                picture: 'waves',
                hue: 'tide',
                keepers: ['Lena Aho'],
              },
            ],
            ...over,
          },
        }),
        'GET /api/my/suggestions': () => ({
          body: {
            suggestions: [
              {
                id: 's1',
                number: 'S-12',
                name: 'Knot board',
                address: 'https://knots.example/',
                at: '2026-11-20T09:00:00Z',
                state: 'waiting',
                answer: '',
                decidedAt: null,
                decidedBy: null,
                whom: 'deck crew',
                why: '',
              },
              {
                id: 's2',
                number: 'S-9',
                name: 'Rope shop',
                address: 'https://rope.example/',
                at: '2026-10-20T09:00:00Z',
                state: 'declined',
                answer: 'we have one',
                decidedAt: '2026-10-22T09:00:00Z',
                decidedBy: 'Ines Roth',
                whom: '',
                why: '',
              },
            ],
          },
        }),
        'POST /api/my/suggestions': () => ({ body: DONE }),
        'POST /api/my/suggestions/s1/withdraw': () => ({ body: DONE }),
        'GET /api/pictures': () => ({ body: { pictures: ['waves'], hues: ['tide'] } }),
        ...answers,
      },
      { powers: [] },
    );
  }

  it('shows only what one may', async () => {
    open({ links: 'nothing', suggest: false });
    expect(await screen.findByText('You cannot keep links of your own here.')).toBeTruthy();
    expect(screen.queryByText('Tide tables')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Suggest an app' })).toBeNull();
  });

  it('keeps a link to something on the list as it stands there', async () => {
    const asked = open();
    await userEvent.click(
      await screen.findByRole('button', { name: 'Keep a link to Tide tables' }),
    );
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByLabelText<HTMLInputElement>('Name').value).toBe('Tide tables');
    expect(within(dialog).getByLabelText<HTMLInputElement>('Address').value).toBe(
      'https://tides.example/',
    );
    await userEvent.click(within(dialog).getByRole('button', { name: 'Keep a link' }));
    await waitFor(() => expect(sent(asked)[0]?.what).toMatch(/^PUT \/api\/my\/links\//));
  });

  it('leads from a link that is not allowed to suggesting it', async () => {
    const id = '0193f2a0-0000-7000-8000-000000000001';
    vi.spyOn(crypto, 'randomUUID').mockReturnValue(id);
    open({}, '/suggest', {
      [`PUT /api/my/links/${id}`]: () => ({
        status: 422,
        body: problem('link.not-approved', 'It is not on the approved list.', 422, 'address'),
      }),
    });
    await userEvent.click(await screen.findByRole('button', { name: 'New link of your own' }));
    const dialog = await screen.findByRole('dialog');
    await userEvent.type(within(dialog).getByLabelText('Name'), 'Knots');
    await userEvent.type(within(dialog).getByLabelText('Address'), 'https://knots.example/');
    await userEvent.click(within(dialog).getByRole('button', { name: 'Keep a link' }));
    expect(await within(dialog).findByText('It is not on the approved list.')).toBeTruthy();
    await userEvent.click(within(dialog).getByRole('link', { name: 'Suggest it instead' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect((await screen.findByLabelText<HTMLInputElement>('Name of the app')).value).toBe('Knots');
  });

  it('is suggested with what the address already says, and again with a key of its own', async () => {
    const asked = open({}, '/suggest?name=Knot%20board&address=https://knots.example/#suggest');
    const name = await screen.findByLabelText<HTMLInputElement>('Name of the app');
    expect(name.value).toBe('Knot board');
    await userEvent.type(screen.getByLabelText('Who needs it'), 'deck crew');
    await userEvent.click(screen.getByRole('button', { name: 'Suggest an app' }));
    expect(await screen.findByText(/^Your suggestion is sent/)).toBeTruthy();
    expect(sent(asked)[0]?.body).toMatchObject({
      name: 'Knot board',
      address: 'https://knots.example/',
      whom: 'deck crew',
    });
    await userEvent.click(screen.getByRole('button', { name: 'Suggest an app' }));
    await waitFor(() => expect(sent(asked)).toHaveLength(2));
    const keys = asked
      .filter((one) => one.what === 'POST /api/my/suggestions')
      .map((one) => one.key);
    expect(new Set(keys).size).toBe(2);
  });

  it('says at each field what is wrong, and keeps what was typed', async () => {
    open({}, '/suggest', {
      'POST /api/my/suggestions': () => ({
        status: 422,
        body: problem('address', 'It must begin with https://.', 422, 'address'),
      }),
    });
    await userEvent.type(await screen.findByLabelText('Name of the app'), 'Knots');
    await userEvent.click(screen.getByRole('button', { name: 'Suggest an app' }));
    expect(await screen.findByText('It must begin with https://.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Name of the app').value).toBe('Knots');
  });

  it('tells what became of what one suggested, and withdraws what waits', async () => {
    const asked = open();
    const declined = await screen.findByRole('article', { name: 'Rope shop' });
    expect(declined.textContent).toMatch(/declined.*S-9.*Ines Roth, 22 Oct 2026\. “we have one”/);
    expect(within(declined).queryByRole('button')).toBeNull();
    await userEvent.click(
      within(screen.getByRole('article', { name: 'Knot board' })).getByRole('button', {
        name: 'Withdraw',
      }),
    );
    await waitFor(() =>
      expect(sent(asked).map((one) => one.what)).toEqual(['POST /api/my/suggestions/s1/withdraw']),
    );
  });
});
