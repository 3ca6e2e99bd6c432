import Papa from 'papaparse';
import { armoured } from '@/core/format/csv/armour';
import { KEPT_AS_INTENDED } from '@/core/words';

/** A finding as a row of a list for other programs: `frames` as numbers shown, `kept` the note it is kept with. */
export type FindingRow = {
  readonly group: string;
  readonly kind: string;
  readonly shot: string;
  readonly level: string;
  readonly fromFrame: number | null;
  readonly toFrame: number | null;
  readonly sentence: string;
  readonly kept: string | null;
};

/** Findings as CSV (RFC 4180): a row of heads, then a row a finding. */
export function writeFindingsCsv(rows: readonly FindingRow[]): string {
  const heads = ['needs', 'kind', 'shot', 'level', 'from frame', 'to frame', 'finding', 'state', 'note'];
  const body = rows.map((row) => [
    row.group,
    row.kind,
    armoured(row.shot),
    armoured(row.level),
    row.fromFrame ?? '',
    row.toFrame ?? '',
    armoured(row.sentence),
    row.kept === null ? 'open' : KEPT_AS_INTENDED,
    armoured(row.kept ?? ''),
  ]);
  return `${Papa.unparse([heads, ...body], { newline: '\r\n' })}\r\n`;
}
