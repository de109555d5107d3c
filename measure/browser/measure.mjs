// Measures the portal in Debian's Chromium: audits by lighthouse, what is loaded, and how long it takes from a key to
// what it finds. node measure.mjs ADDRESS USER STEWARD PASSWORD ROUNDS; prints one line of JSON.
import lighthouse, { desktopConfig } from 'lighthouse';
import puppeteer from 'puppeteer-core';

const [address, user, steward, password, roundsText] = process.argv.slice(2);
const rounds = Number(roundsText ?? 5);
const CATEGORIES = ['performance', 'accessibility', 'best-practices'];
const MANY = 600;

const median = (all) => {
  const sorted = [...all].sort((one, other) => one - other);
  return sorted[Math.floor((sorted.length - 1) / 2)];
};
const say = (text) => process.stderr.write(`  ${text}\n`);

const browser = await puppeteer.launch({
  executablePath: '/usr/bin/chromium',
  headless: true,
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--force-device-scale-factor=1'],
});

/** Signs somebody in, in a context of their own. */
async function signedIn(name) {
  const context = await browser.createBrowserContext();
  const page = await context.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${address}/sign-in`);
  await signIn(page, name);
  return page;
}

async function signIn(page, name) {
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
    name,
    password,
  );
  if (status !== 200) {
    throw new Error(`${name} cannot sign in: ${status}`);
  }
}

/** Does something over the interface that the pages use. */
function call(page, method, path, body) {
  return page.evaluate(
    async (method, path, body) => {
      const token = document.cookie.split('; ').find((one) => one.startsWith('XSRF-TOKEN='));
      const answer = await fetch(path, {
        method,
        headers: {
          'Content-Type': 'application/json',
          'X-XSRF-TOKEN': decodeURIComponent(token.slice(11)),
        },
        body: body === undefined ? undefined : JSON.stringify(body),
      });
      if (!answer.ok) {
        throw new Error(`${method} ${path}: ${answer.status}`);
      }
      return answer.json();
    },
    method,
    path,
    body,
  );
}

// ---- what is loaded, and what is painted before it

async function loaded() {
  const page = await signedIn(user);
  const cdp = await page.createCDPSession();
  await cdp.send('Network.enable');
  await cdp.send('Network.setCacheDisabled', { cacheDisabled: true });
  await cdp.send('Network.setBypassServiceWorker', { bypass: true });
  const types = new Map();
  const bytes = { js: 0, css: 0, fonts: 0 };
  const lasting = [];
  cdp.on('Network.responseReceived', ({ requestId, response }) => {
    types.set(requestId, response.url);
    if (response.url.includes('/assets/')) {
      lasting.push(/immutable/.test(response.headers['Cache-Control'] ?? response.headers['cache-control'] ?? ''));
    }
  });
  cdp.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const url = new URL(types.get(requestId) ?? 'about:blank').pathname;
    if (url.endsWith('.js') && url !== '/worker.js') bytes.js += encodedDataLength;
    if (url.endsWith('.css')) bytes.css += encodedDataLength;
    if (url.endsWith('.woff2')) bytes.fonts += encodedDataLength;
  });
  // The answer with the data comes late: what is painted before it does not wait for it.
  await page.setRequestInterception(true);
  let answered = false;
  page.on('request', (request) => {
    if (new URL(request.url()).pathname === '/api/front') {
      setTimeout(() => {
        answered = true;
        void request.continue();
      }, 3000);
    } else {
      void request.continue();
    }
  });
  await page.goto(address, { waitUntil: 'domcontentloaded' });
  await page.waitForFunction(() => performance.getEntriesByName('first-contentful-paint').length > 0);
  const early = !answered;
  await page.waitForFunction(() => document.querySelectorAll('a.tile').length > 5);
  await page.waitForNetworkIdle({ idleTime: 1500, timeout: 20000 }).catch(() => undefined);
  const shift = await page.evaluate(
    () =>
      new Promise((done) => {
        let sum = 0;
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries()) sum += entry.hadRecentInput ? 0 : entry.value;
        }).observe({ type: 'layout-shift', buffered: true });
        const before = sum;
        setTimeout(() => done({ all: sum, before }), 500);
      }),
  );
  await page.browserContext().close();
  return { ...bytes, immutable: lasting.every(Boolean), skeletonBeforeData: early, shift: shift.all };
}

// ---- from a key to what it finds

const TYPED = ['many 417', 'crewsheet', 'tidewacth', 'mail', 'many 5', 'rota'];

async function keys() {
  const ines = await signedIn(steward);
  const apps = await call(ines, 'GET', '/api/apps?find=Quaynotes');
  const id = apps.lines[0].app.id;
  const app = await call(ines, 'GET', `/api/apps/${id}`);
  const role = app.entitlements.find((one) => one.name === 'Reader').id;
  const made = [];
  say(`making ${MANY} tiles`);
  for (let i = 1; i <= MANY; i += 1) {
    const receipt = await call(ines, 'POST', '/api/tiles', {
      name: `Many ${i}`,
      line: 'One of a great many',
      picture: 'waves',
      hue: 'tide',
      application: id,
      needs: [role],
      address: '',
      contact: '',
      apart: false,
      audience: { everyone: true, firstDays: 0, subjects: [] },
      from: null,
      until: null,
    });
    made.push(receipt.result.split(':').pop());
  }
  const found = {};
  try {
    const page = await signedIn(user);
    await page.goto(address);
    await page.waitForFunction((many) => document.querySelectorAll('a.tile').length > many, {}, MANY);
    const cdp = await page.createCDPSession();
    await page.evaluate(() => {
      window.took = [];
      window.shifted = 0;
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) window.shifted += entry.hadRecentInput ? 0 : entry.value;
      }).observe({ type: 'layout-shift' });
      document.addEventListener(
        'keydown',
        (event) => {
          // The first task after the frame that shows what the key has found.
          requestAnimationFrame(() => {
            const channel = new MessageChannel();
            channel.port1.onmessage = () => window.took.push(performance.now() - event.timeStamp);
            channel.port2.postMessage(0);
          });
        },
        true,
      );
    });
    for (const slower of [1, 4]) {
      await cdp.send('Emulation.setCPUThrottlingRate', { rate: slower });
      await page.evaluate(() => {
        window.took = [];
      });
      for (let round = 0; round < rounds; round += 1) {
        for (const text of TYPED) {
          for (const key of text) {
            await page.keyboard.press(key === ' ' ? 'Space' : key);
            await new Promise((done) => setTimeout(done, 30 * slower));
          }
          await page.keyboard.press('Escape');
          await new Promise((done) => setTimeout(done, 60 * slower));
        }
      }
      const took = await page.evaluate(() => window.took);
      found[`x${slower}`] = { median: median(took), worst: Math.max(...took), keys: took.length };
    }
    await cdp.send('Emulation.setCPUThrottlingRate', { rate: 1 });
    found.shift = await page.evaluate(() => window.shifted);
    await page.browserContext().close();
  } finally {
    for (const tile of made) {
      await call(ines, 'DELETE', `/api/tiles/${tile}`);
    }
  }
  return found;
}

// ---- audits

async function audits() {
  const port = Number(new URL(browser.wsEndpoint()).port);
  const page = (await browser.pages())[0] ?? (await browser.newPage());
  await page.goto(`${address}/sign-in`);
  await signIn(page, user);
  const found = {};
  for (const [name, config] of [
    ['mobile', undefined],
    ['desktop', desktopConfig],
  ]) {
    const scores = [];
    for (let round = 0; round < rounds; round += 1) {
      const run = await lighthouse(
        address,
        { port, output: 'json', logLevel: 'error', onlyCategories: CATEGORIES },
        config,
      );
      const { categories, audits: each, finalDisplayedUrl } = run.lhr;
      if (new URL(finalDisplayedUrl).pathname !== '/') {
        throw new Error(`audited ${finalDisplayedUrl}, not the front page`);
      }
      scores.push({
        ...Object.fromEntries(CATEGORIES.map((one) => [one, Math.round(categories[one].score * 100)])),
        fcp: each['first-contentful-paint'].numericValue,
        lcp: each['largest-contentful-paint'].numericValue,
        tbt: each['total-blocking-time'].numericValue,
        cls: each['cumulative-layout-shift'].numericValue,
        missed: Object.values(each)
          .filter((one) => one.score !== null && one.score < 0.9 && one.scoreDisplayMode !== 'informative')
          .map((one) => one.id),
      });
      say(`${name} ${round + 1}: ${JSON.stringify(scores.at(-1))}`);
    }
    found[name] = Object.fromEntries(
      [...CATEGORIES, 'fcp', 'lcp', 'tbt', 'cls'].map((one) => [
        one,
        median(scores.map((score) => score[one])),
      ]),
    );
    found[name].missed = scores.at(-1).missed;
  }
  return found;
}

try {
  const parts = { loaded, audits, keys };
  const result = {};
  for (const part of (process.env.PARTS ?? 'loaded audits keys').split(' ')) {
    result[part] = await parts[part]();
  }
  process.stdout.write(`${JSON.stringify(result)}\n`);
} finally {
  await browser.close();
}
