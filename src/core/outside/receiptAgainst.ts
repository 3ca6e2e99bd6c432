import { digestsOfFrames, type FrameDigests } from '@/core/count/frameDigests';
import type { Size } from '@/core/document/model';
import { layShared } from '@/core/outside/agreement';
import { type Agreement, agreementOf, type HeldAgainst } from '@/core/outside/agreementWords';
import type { CountedOutside } from '@/core/outside/countOutside';
import { countText, plural } from '@/core/time/counts';
import type { Rate } from '@/core/time/rate';

/** What a receipt keeps that a file brought back later is held against. */
export type ReceiptFacts = {
  readonly fileName: string;
  readonly fileDigest: string | null;
  readonly frameDigests: FrameDigests | null;
  readonly request: Size & {
    readonly frames: number;
    readonly rate: Rate;
    readonly firstNumber: number;
    readonly sound: { readonly samples: number; readonly sampleRate: number } | null;
    readonly loop: { readonly trueMicroseconds: number } | null;
  };
};

/** Digests as shared ids. */
function idsOf(rows: readonly (readonly string[])[]): readonly Uint32Array[] {
  const ids = new Map<string, number>();
  const idOf = (digest: string) => {
    const id = ids.get(digest) ?? ids.size;
    ids.set(digest, id);
    return id;
  };
  return rows.map((row) => Uint32Array.from(row, idOf));
}

/**
 * Holds a file against the receipt of one that was handed over: whether it is the very file, the same frames packed anew, or
 * another, and which of its frames differ, by their SHA-256. A receipt keeps no pictures, so that frames that were coded anew can be counted, not seen.
 */
export function heldAgainstReceipt({ fileName, fileDigest, frameDigests, request }: ReceiptFacts, file: CountedOutside): Agreement {
  const plan: HeldAgainst = {
    name: fileName,
    frames: request.frames,
    firstNumber: request.firstNumber,
    rate: request.loop ? null : request.rate,
    size: { width: request.width, height: request.height },
    soundMicroseconds: request.sound ? (request.sound.samples * 1_000_000) / request.sound.sampleRate : null,
  };
  const own = file.digests.frames;
  const isVery = fileDigest !== null && fileDigest === file.digests.file;
  const [ofReceipt, ofFile] =
    frameDigests && own && frameDigests.of === own.of ? idsOf([digestsOfFrames(frameDigests), digestsOfFrames(own)]) : [null, null];
  const beside = ofReceipt && ofFile ? layShared({ plan: ofReceipt, file: ofFile }, () => null, plan.rate) : null;
  const isTold = beside !== null && (beside.alignment !== null || beside.multiple !== null);
  const isSame = isTold && beside.faults.length === 0 && beside.multiple === null;
  const agreement = agreementOf(plan, file.count, isTold ? beside : null, null);
  if (isVery) return { ...agreement, agrees: true, headline: `This is the very file: ${fileName}, by its SHA-256.`, sentences: [] };
  if (isSame && agreement.agrees)
    return {
      ...agreement,
      headline: `The same frames, packed anew: all ${countText(request.frames)} are the very ones of ${fileName}, by their SHA-256.`,
    };
  if (isTold) return { ...agreement, agrees: false };
  const wrong = agreement.lines.filter(({ agrees }) => !agrees);
  const figures =
    wrong.length === 0
      ? `it has ${plural(request.frames, 'frame')} as planned`
      : wrong.map(({ what, asked, counted }) => `${what} ${counted} for ${asked}`).join(', ');
  return {
    ...agreement,
    agrees: false,
    headline: `Another file than ${fileName}: its frames were coded anew; ${figures}.`,
    sentences: [
      'A receipt keeps digests, not pictures: hold the file against the project, or the file that was handed over, to see its pictures.',
    ],
  };
}
