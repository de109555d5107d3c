// What is wrong with how the page is laid out, one line each. Run at the end of a page as well as at its beginning.
const wrong = [];
const MOST = 8;
const say = (what) => {
  if (wrong.length < 40) wrong.push(what);
};
const short = (text) => text.trim().replace(/\s+/g, ' ').slice(0, 60);

const named = (element) => {
  const tag = element.tagName.toLowerCase();
  const klass = typeof element.className === 'string' && element.className !== '' ? '.' + element.className.trim().split(/\s+/).join('.') : '';
  return tag + klass;
};

/** What stays in its place while the page moves under it. */
const apart = (element) => {
  for (let at = element; at !== null && at !== document.documentElement; at = at.parentElement) {
    const { position } = getComputedStyle(at);
    if (position === 'fixed' || position === 'sticky') return at;
  }
  return null;
};

const hidden = (element) => {
  if (!element.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true })) return true;
  for (let at = element; at !== null; at = at.parentElement) {
    const style = getComputedStyle(at);
    if ((style.clip !== 'auto' && style.clip.startsWith('rect(0')) || style.clipPath.startsWith('inset(50%')) return true;
    if (at.tagName === 'DETAILS' && !at.open && element.closest('summary') === null) return true;
  }
  return false;
};

/** The part of a box that is in sight: what its ancestors cut away is not there. */
const inSight = (element, box) => {
  let [left, top, right, bottom] = [box.left, box.top, box.right, box.bottom];
  for (let at = element; at !== null && at !== document.body; at = at.parentElement) {
    const style = getComputedStyle(at);
    if (style.overflowX !== 'visible' || style.overflowY !== 'visible') {
      const edge = at.getBoundingClientRect();
      left = Math.max(left, edge.left);
      top = Math.max(top, edge.top);
      right = Math.min(right, edge.right);
      bottom = Math.min(bottom, edge.bottom);
    }
    if (style.position === 'fixed') break;
  }
  return right - left > 1 && bottom - top > 1 ? { left, top, right, bottom } : null;
};

const over = document.querySelector('[role=dialog]');
const root = over ?? document.body;
const boxes = [];
const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
while (walker.nextNode()) {
  const node = walker.currentNode;
  const element = node.parentElement;
  if (node.data.trim() === '' || element === null || /^(SCRIPT|STYLE|NOSCRIPT|TITLE|OPTION)$/.test(element.tagName) || hidden(element)) continue;
  const range = document.createRange();
  range.selectNodeContents(node);
  for (const rect of range.getClientRects()) {
    const box = inSight(element, rect);
    if (box !== null) boxes.push({ ...box, element, what: '“' + short(node.data) + '”', apart: apart(element) });
  }
  // A word that is torn letter by letter: narrower than three letters and higher than two lines.
  const whole = range.getBoundingClientRect();
  const size = Number.parseFloat(getComputedStyle(element).fontSize);
  // So is a text of short words that stands one below the other in a column with no room.
  const torn =
    (/\p{L}{6,}/u.test(node.data) && whole.width < 3.2 * size && whole.height > 2.9 * size) ||
    (node.data.trim().length >= 10 && whole.width < 2 * size && whole.height > 6 * size);
  if (getComputedStyle(element).writingMode === 'horizontal-tb' && whole.width > 0 && torn) {
    say('torn into letters: “' + short(node.data) + '” in ' + named(element));
  }
}
for (const failed of root.querySelectorAll('[data-failure]')) say('could not be shown: ' + short(failed.textContent));
for (const element of root.querySelectorAll('.picture, img')) {
  if (hidden(element)) continue;
  const box = inSight(element, element.getBoundingClientRect());
  if (box !== null) boxes.push({ ...box, element, what: named(element), apart: apart(element) });
}
boxes.sort((a, b) => a.top - b.top);
for (let i = 0; i < boxes.length; i++) {
  const one = boxes[i];
  for (let j = i + 1; j < boxes.length && boxes[j].top < one.bottom - 3; j++) {
    const other = boxes[j];
    if (one.apart !== other.apart || one.element === other.element) continue;
    const wide = Math.min(one.right, other.right) - Math.max(one.left, other.left);
    const high = Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top);
    if (wide > 3 && high > 4) say(one.what + ' lies on ' + other.what + ' (' + named(one.element) + ', ' + named(other.element) + ')');
  }
}

for (const element of root.querySelectorAll('*')) {
  if (element.closest('svg') !== null || hidden(element)) continue;
  const style = getComputedStyle(element);
  const clips = /hidden|clip/.test(style.overflowX);
  if (clips && element.clientWidth > 0 && element.scrollWidth > element.clientWidth + 1 && element.textContent.trim() !== '' && !/^(SELECT|INPUT|TEXTAREA)$/.test(element.tagName)) {
    const owned = [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.data.trim() !== '');
    const lines = element.querySelectorAll('*').length < 4;
    if (!owned && !lines) continue;
    element.dispatchEvent(new PointerEvent('pointerover', { bubbles: true }));
    if (style.textOverflow !== 'ellipsis') say('cut without an ellipsis: “' + short(element.textContent) + '” in ' + named(element));
    else if (element.closest('[title]') === null) say('cut without a title: “' + short(element.textContent) + '” in ' + named(element));
  }
}

// At the end of the page nothing lies under what stays in its place.
const end = document.scrollingElement;
const before = end.scrollTop;
end.scrollTop = end.scrollHeight;
const main = over === null ? document.querySelector('main') : null;
if (main !== null) {
  const inside = boxes
    .filter((box) => main.contains(box.element) && box.apart === null && document.contains(box.element))
    .sort((a, b) => b.bottom - a.bottom)
    .slice(0, 12);
  for (const { element, what } of inside) {
    const box = element.getBoundingClientRect();
    const [x, y] = [box.left + Math.min(box.width / 2, 40), box.bottom - Math.min(6, box.height / 2)];
    if (x < 0 || y < 0 || x > innerWidth || y > innerHeight) continue;
    const top = document.elementFromPoint(x, y);
    if (top === null || top.contains(element) || element.contains(top)) continue;
    const bar = apart(top);
    if (bar !== null && !bar.contains(element)) say('at the end of the page ' + what + ' lies under ' + named(bar));
  }
}
end.scrollTop = before;

// A phone lays a page out as wide as it wants to be and tells that as its inner width; not so this.
const wide = document.documentElement.clientWidth;
if (end.scrollWidth > wide) {
  say('too wide by ' + (end.scrollWidth - wide));
  for (const element of document.querySelectorAll('main *')) {
    if (element.getBoundingClientRect().right > wide + 1 && element.children.length === 0 && inSight(element, element.getBoundingClientRect()) !== null) {
      say('sticks out: ' + named(element) + ' “' + short(element.textContent) + '”');
      break;
    }
  }
}
const headings = [...root.ownerDocument.querySelectorAll('h1')].filter((one) => one.checkVisibility());
if (over === null && headings.length !== 1) say('headings of the first rank: ' + headings.length);
return wrong.slice(0, MOST);
