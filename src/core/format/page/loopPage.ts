import { done, type Outcome, refused } from '@/core/outcome';

/*
 * A small page that plays a loop by its own times, with nothing to fetch: every distinct picture is in it once, as a PNG, and a
 * list says which is shown how long. What it plays lies in it as JSON, so that it can be read without being run.
 */

const VERSION = 1;

/** What a page plays: each entry of `shown` is the picture that is shown (from 0), and for how many microseconds. `plays` is 0 for ever. */
export type LoopList = {
  readonly version: number;
  readonly title: string;
  readonly width: number;
  readonly height: number;
  readonly plays: number;
  readonly shown: readonly (readonly [picture: number, microseconds: number])[];
};

const DATA_START = '<script type="application/json" id="loop">';
const DATA_END = '</script>';
const PICTURES_MARK = '"pictures":[';

/** Text within a page, in which nothing is markup. */
const escaped = (text: string): string => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);

/** JSON within a script: no end of the script can stand in it. */
const inScript = (value: unknown): string => JSON.stringify(value).replaceAll('<', '\\u003c');

const STYLE = `
:root { color-scheme: light dark; }
body { margin: 0; min-height: 100vh; display: grid; place-content: center; justify-items: center; gap: 12px; font: 15px system-ui, sans-serif; }
canvas { max-width: 100vw; max-height: calc(100vh - 72px); height: auto; }
p { margin: 0; display: flex; gap: 12px; align-items: center; font-variant-numeric: tabular-nums; }
button { font: inherit; min-height: 36px; padding: 0 14px; }
`;

/** The page's program. Where the loop is, is worked out of the time since it was started: nothing is added up, so nothing runs away. */
export const LOOP_PAGE_SCRIPT = `
const loop = JSON.parse(document.getElementById('loop').textContent);
const canvas = document.querySelector('canvas');
const context = canvas.getContext('2d');
const button = document.querySelector('button');
const place = document.querySelector('output');
const ends = [];
for (const [, time] of loop.shown) ends.push((ends.at(-1) ?? 0) + time);
const length = ends.at(-1) ?? 0;
const images = loop.pictures.map((address) => Object.assign(new Image(), { src: address }));
let at = -1, startedAt = null;
function show(next) {
  if (next === at) return;
  at = next;
  context.clearRect(0, 0, canvas.width, canvas.height);
  context.drawImage(images[loop.shown[at][0]], 0, 0);
  place.textContent = 'Picture ' + (at + 1) + ' of ' + loop.shown.length;
}
function tick(now) {
  if (startedAt === null) return;
  const gone = Math.max(0, (now - startedAt) * 1000);
  if (loop.plays > 0 && gone >= length * loop.plays) { show(loop.shown.length - 1); return stop(); }
  const within = gone % length;
  show(ends.findIndex((end) => within < end));
  requestAnimationFrame(tick);
}
function stop() { startedAt = null; button.textContent = 'Play'; }
function play() {
  const before = at > 0 && at < ends.length - 1 ? ends[at - 1] : 0;
  startedAt = performance.now() - before / 1000;
  button.textContent = 'Stop';
  requestAnimationFrame(tick);
}
button.onclick = () => (startedAt === null ? play() : stop());
addEventListener('keydown', (event) => {
  const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
  if (!by) return;
  event.preventDefault();
  stop();
  show((at + by + loop.shown.length) % loop.shown.length);
});
Promise.all(images.map((image) => image.decode())).then(() => {
  show(0);
  if (!matchMedia('(prefers-reduced-motion: reduce)').matches) play();
});
`;

/** The beginning of a page; the addresses of its pictures follow, with commas between, and then `LOOP_PAGE_END`. */
export function loopPageHead(list: Omit<LoopList, 'version'>): string {
  const data = inScript({ version: VERSION, ...list });
  return [
    '<!doctype html>\n<html lang="en">\n<head>\n<meta charset="utf-8">',
    `<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; script-src 'unsafe-inline'; style-src 'unsafe-inline'">`,
    '<meta name="viewport" content="width=device-width">',
    `<title>${escaped(list.title)}</title>`,
    `<style>${STYLE}</style>\n</head>\n<body>`,
    `<canvas width="${list.width}" height="${list.height}" role="img" aria-label="${escaped(list.title)}"></canvas>`,
    '<p><button type="button">Play</button><output></output></p>',
    `${DATA_START}${data.slice(0, -1)},${PICTURES_MARK}`,
  ].join('\n');
}

export const LOOP_PAGE_END = `]}${DATA_END}\n<script>${LOOP_PAGE_SCRIPT}</script>\n</body>\n</html>\n`;

/** Before a PNG in base64 (RFC 4648) within a page. */
export const PNG_ADDRESS = 'data:image/png;base64,';

/** What a page plays, and the addresses of its pictures; refused where it is no such page. */
export function readLoopPage(html: string): Outcome<LoopList & { readonly pictures: readonly string[] }> {
  const start = html.indexOf(DATA_START);
  const end = html.indexOf(DATA_END, start);
  if (start < 0 || end < 0) return refused('The page plays no loop of this kind.');
  try {
    const data = JSON.parse(html.slice(start + DATA_START.length, end)) as LoopList & { readonly pictures: readonly string[] };
    if (data.version !== VERSION || !Array.isArray(data.pictures) || !Array.isArray(data.shown))
      return refused('The page is of another version.');
    return done(data);
  } catch {
    return refused('The page’s list of pictures could not be read.');
  }
}
