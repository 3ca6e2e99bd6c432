import { readFile } from 'node:fs/promises';
import { countablesAt } from '@/command/openPath';
import { heldByPackage, isPackageName } from '@/command/packagePlan';
import { receiptReader } from '@/contracts/receipt';
import type { Agreement } from '@/core/outside/agreementWords';
import { type CountedOutside, countOutside } from '@/core/outside/countOutside';
import { holdAgainst, planOfFile } from '@/core/outside/holdAgainst';
import { endingOf } from '@/core/outside/pictureKind';
import { heldAgainstReceipt } from '@/core/outside/receiptAgainst';
import type { Rate } from '@/core/time/rate';

/** What files are held against; `byDigests` where it keeps digests instead of pictures. */
export type Against = {
  readonly name: string;
  readonly byDigests: boolean;
  readonly hold: (file: CountedOutside, rate: Rate | null) => Promise<Agreement>;
};

/** A receipt as it is saved: itself, or with the project's name around it. */
async function readReceipt(path: string): Promise<Against> {
  let value: unknown;
  try {
    value = JSON.parse(await readFile(path, 'utf8'));
  } catch {
    throw new Error(`${path} is not a receipt: it is not JSON.`);
  }
  const held = typeof value === 'object' && value !== null && 'receipt' in value ? value.receipt : value;
  const receipt = receiptReader.read(held);
  if (!receipt.ok) throw new Error(`${path}: ${receipt.reason}`);
  return { name: path, byDigests: true, hold: async (file) => heldAgainstReceipt(receipt.value, file) };
}

/** Reads what files are to be held against. Rejects with a sentence where it can't be read. */
export async function readAgainst(path: string, rate: Rate | null): Promise<Against> {
  if (endingOf(path) === 'json') return readReceipt(path);
  if (isPackageName(path)) {
    const hold = await heldByPackage(path);
    return { name: path, byDigests: false, hold: async (file) => (await hold(file)).agreement };
  }
  const things = await countablesAt([path]);
  const [thing, other] = things;
  if (!thing) throw new Error(`There is nothing to hold against at ${path}.`);
  if (other) throw new Error(`There are ${things.length} things at ${path}: name the one to hold against.`);
  const plan = planOfFile(await countOutside(await thing.open()), rate);
  return { name: path, byDigests: false, hold: async (file) => holdAgainst(plan, file).agreement };
}
