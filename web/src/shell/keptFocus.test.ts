import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { keepFocus } from './keptFocus';

let stop: () => void;

beforeEach(() => {
  document.body.innerHTML = `
    <main><h1>Docket</h1>
      <section><h2>Mina Sato asks</h2><div id="bar"><button id="yes">Approve</button></div></section>
      <button id="other">Other</button>
    </main>`;
  stop = keepFocus(document);
});
afterEach(() => stop());

const at = (id: string) => document.getElementById(id) as HTMLElement;

test('goes to the heading of where it was when the button is gone after its act', async () => {
  at('yes').focus();
  at('bar').remove();
  await vi.waitFor(() => expect(document.activeElement?.textContent).toBe('Mina Sato asks'));
});

test('goes on outwards when the whole place is gone', async () => {
  at('yes').focus();
  document.querySelector('section')?.remove();
  await vi.waitFor(() => expect(document.activeElement?.textContent).toBe('Docket'));
});

test('comes back to a button that could not be pressed for a moment', async () => {
  const button = at('yes') as HTMLButtonElement;
  button.focus();
  button.disabled = true;
  button.blur();
  button.disabled = false;
  await vi.waitFor(() => expect(document.activeElement).toBe(button));
});

test('goes there too when the button that had the focus already is pressed again', async () => {
  at('yes').focus();
  at('yes').dispatchEvent(new Event('pointerdown', { bubbles: true }));
  at('bar').remove();
  await vi.waitFor(() => expect(document.activeElement?.textContent).toBe('Mina Sato asks'));
});

test('stays away from whoever has left on purpose, or gone on', async () => {
  at('yes').focus();
  at('other').focus();
  at('bar').remove();
  await new Promise((done) => setTimeout(done, 5));
  expect(document.activeElement).toBe(at('other'));
  document.body.dispatchEvent(new Event('pointerdown', { bubbles: true }));
  at('other').remove();
  await new Promise((done) => setTimeout(done, 5));
  expect(document.activeElement).toBe(document.body);
});
