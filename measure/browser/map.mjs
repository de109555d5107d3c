// Measures scrolling of the map of holdings against an empty scroller, in Debian's Chromium, and takes its picture.
// node map.mjs ADDRESS USER PASSWORD ROUNDS [PICTURE]; prints one line of JSON: frames of both, in milliseconds.
import puppeteer from 'puppeteer-core';

const [address, user, password, roundsText, picture] = process.argv.slice(2);
const rounds = Number(roundsText ?? 3);
const FRAMES = 240;

const browser = await puppeteer.launch({
  executablePath: '/usr/bin/chromium',
  headless: true,
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--force-device-scale-factor=1'],
});
const page = await browser.newPage();
await page.setViewport({ width: 1280, height: 800 });
await page.goto(`${address}/sign-in`);
const status = await page.evaluate(
  async (name, password) => {
    await fetch('/api/session');
    const token = document.cookie.split('; ').find((one) => one.startsWith('XSRF-TOKEN='));
    const answer = await fetch('/api/sign-in', {
      method: 'POST',
      headers: {
        'Content-Type': 'application/json',
        'X-XSRF-TOKEN': decodeURIComponent(token.slice(11)),
      },
      body: JSON.stringify({ name, password, account: null }),
    });
    return answer.status;
  },
  user,
  password,
);
if (status !== 200) {
  throw new Error(`${user} cannot sign in: ${status}`);
}

/** Scrolls an element down and to the right, frame by frame; how long each frame took. */
function scrolled(selector) {
  return page.evaluate(
    async (selector, frames) => {
      const element = document.querySelector(selector);
      element.scrollTo(0, 0);
      const frame = () => new Promise((done) => requestAnimationFrame(done));
      await frame();
      const times = [];
      let before = await frame();
      for (let i = 0; i < frames; i++) {
        element.scrollTop += 60;
        element.scrollLeft += 25;
        const now = await frame();
        times.push(now - before);
        before = now;
      }
      return times.sort((one, other) => one - other);
    },
    selector,
    FRAMES,
  );
}
const at = (times, share) => times[Math.min(times.length - 1, Math.floor(times.length * share))];

const found = { map: [], empty: [], rows: 0, columns: 0 };
for (let round = 0; round < rounds; round++) {
  await page.goto(`${address}/desk/holdings?order=size`, { waitUntil: 'networkidle2' });
  await page.waitForSelector('.map-row');
  if (round === 0) {
    const grid = await page.$eval('.map', (element) => [
      element.getAttribute('aria-rowcount'),
      element.getAttribute('aria-colcount'),
    ]);
    [found.rows, found.columns] = grid.map(Number);
  }
  // Opened to its people, so that there is something to go through.
  await page.click('.map-row [role="rowheader"] button');
  await page.waitForSelector('.map-row.person');
  await page.waitForNetworkIdle({ idleTime: 400 });
  if (round === 0 && picture !== undefined) {
    await page.screenshot({ path: picture });
  }
  found.map.push(at(await scrolled('.map'), 0.95));
  await page.goto(`${address}/sign-in`, { waitUntil: 'networkidle2' });
  await page.evaluate(() => {
    const outer = document.createElement('div');
    outer.id = 'empty';
    outer.style.cssText = 'width:900px;height:480px;overflow:auto;position:fixed;inset:0';
    const inner = document.createElement('div');
    inner.style.cssText = 'width:200000px;height:1000000px';
    outer.append(inner);
    document.body.replaceChildren(outer);
  });
  found.empty.push(at(await scrolled('#empty'), 0.95));
}
process.stdout.write(JSON.stringify(found));
await browser.close();
