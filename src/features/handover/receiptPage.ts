import type { Receipt } from '@/contracts/receipt';
import { judge, type Verdict } from '@/core/count/verdict';
import { countText } from '@/core/time/counts';

/*
 * A receipt as a page by itself, to be printed: it needs nothing but its own text, and says the digest of every frame.
 */

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;').replaceAll("'", '&#39;');

const STYLE = `
  body { font: 11pt/1.4 system-ui, sans-serif; color: #1d2a23; max-width: 46rem; margin: 2rem auto; padding: 0 1rem; }
  h1 { font-size: 15pt; margin: 0; overflow-wrap: anywhere; }
  h2 { font-size: 12pt; margin: 1.5rem 0 0; }
  thead th { font-weight: normal; }
  table { border-collapse: collapse; width: 100%; margin: 1rem 0; }
  th, td { text-align: left; padding: .15rem .6rem .15rem 0; border-bottom: 1px solid #c9cdc4; vertical-align: top; }
  .n { text-align: right; font-variant-numeric: tabular-nums; }
  code { font: 8pt/1.3 ui-monospace, monospace; overflow-wrap: anywhere; }
  .wrong { font-weight: bold; }
  @page { margin: 16mm; }
  @media print { body { margin: 0; max-width: none; } tr { break-inside: avoid; } }`;

/** A moment as `2026-11-26, 20:00 UTC`, the same wherever the page is printed. */
const timeWords = (moment: string): string => escaped(`${moment.slice(0, 10)}, ${moment.slice(11, 16)} UTC`);

const verdictWord = ({ agrees, isWhole }: Verdict): string => (agrees ? 'agrees' : isWhole ? 'disagrees' : 'not proved');

function lineRows({ lines }: Verdict): string {
  return lines
    .map(
      ({ what, asked, counted, agrees }) =>
        `<tr${agrees ? '' : ' class="wrong"'}><th scope="row">${escaped(what)}</th><td class="n">${escaped(asked)}</td><td class="n">${escaped(counted)}</td><td>${agrees ? '' : 'no'}</td></tr>`,
    )
    .join('\n');
}

/** Frames with the digest of what the file holds for them, those in a row that are alike on one line. */
function digestRows({ frameDigests, request }: Receipt): string {
  if (!frameDigests) return '';
  let frame = request.firstNumber;
  const rows = frameDigests.runs.map(([digest, frames]) => {
    const range = frames === 1 ? String(frame) : `${frame}–${frame + frames - 1}`;
    frame += frames;
    return `<tr><td class="n">${range}</td><td><code>${escaped(frameDigests.digests[digest] ?? '')}</code></td></tr>`;
  });
  const of = frameDigests.of === 'packet' ? 'of its packet' : 'of its file';
  return `<h2>Frames</h2><table><thead><tr><th class="n">frame</th><th>SHA-256 ${of}</th></tr></thead><tbody>${rows.join('\n')}</tbody></table>`;
}

/** A receipt as an HTML page. */
export function receiptPage(receipt: Receipt): string {
  const verdict = judge(receipt.request, receipt.count);
  const file = `${countText(receipt.fileBytes)} bytes${receipt.fileDigest ? `, SHA-256 <code>${escaped(receipt.fileDigest)}</code>` : ''}`;
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escaped(receipt.fileName)}: receipt</title><style>${STYLE}</style></head>
<body>
<h1>${escaped(receipt.fileName)}</h1>
<p><strong>${verdictWord(verdict)}</strong> · counted ${timeWords(receipt.madeAt)} · ${file}</p>
<table><thead><tr><th></th><th class="n">asked</th><th class="n">counted</th><th></th></tr></thead><tbody>
${lineRows(verdict)}
</tbody></table>
<ul>${verdict.sentences.map((sentence) => `<li>${escaped(sentence)}</li>`).join('\n')}<li>* pictures repeated where the sheet has no hold</li></ul>
${digestRows(receipt)}
</body></html>
`;
}
