/*
 * Two films are laid beside each other by their pictures: which frame of the file is which of the plan. Sought is the
 * alignment with the fewest faults, a fault being a frame of the plan that is missing, a frame of the file that is not of
 * the plan, or one picture in the place of another.
 *
 * The method is the one of furthest-reaching points (E. Ukkonen, Algorithms for approximate string matching, 1985): F(e, d)
 * is how far into the plan one gets with e faults on diagonal d = (frame of the file) − (frame of the plan),
 *
 *   F(e, d) = slide(max(F(e − 1, d) + 1, F(e − 1, d − 1), F(e − 1, d + 1) + 1))
 *
 * where slide goes on as long as both show the same picture. It costs (frames + faults²) steps, not frames².
 */

/** More faults than this are not sought: the films have little to do with each other. */
const MOST_FAULTS = 4000;

/** For each frame of the plan the frame of the file that stands for it, −1 where none does; and the other way round. `isSame` says of a plan's frame that the file's shows its picture. */
export type Alignment = { readonly fileOf: Int32Array; readonly planOf: Int32Array; readonly isSame: Uint8Array; readonly faults: number };

const NEVER = -1;

/** How far each diagonal gets with so many faults, from diagonal −faults to faults; null when they are more than are sought. */
function furthest(plan: Uint32Array, file: Uint32Array, mostFaults: number): readonly Int32Array[] | null {
  const goal = file.length - plan.length;
  const rows: Int32Array[] = [];
  for (let faults = 0; faults <= mostFaults; faults++) {
    const before = rows[faults - 1];
    const row = new Int32Array(2 * faults + 1).fill(NEVER);
    for (let diagonal = -faults; diagonal <= faults; diagonal++) {
      if (diagonal < -plan.length || diagonal > file.length) continue;
      let at = faults === 0 ? 0 : NEVER;
      if (before) {
        // The row before reaches from diagonal −(faults − 1) to faults − 1.
        const place = diagonal + faults - 1;
        const same = place >= 0 && place < before.length ? (before[place] as number) : NEVER;
        const extra = place >= 1 ? (before[place - 1] as number) : NEVER;
        const missing = place + 1 < before.length ? (before[place + 1] as number) : NEVER;
        if (same !== NEVER && same < plan.length && same + diagonal < file.length) at = same + 1;
        if (extra !== NEVER && extra + diagonal <= file.length) at = Math.max(at, extra);
        if (missing !== NEVER && missing < plan.length) at = Math.max(at, missing + 1);
      }
      if (at === NEVER) continue;
      while (at < plan.length && at + diagonal < file.length && plan[at] === file[at + diagonal]) at++;
      row[diagonal + faults] = at;
    }
    rows.push(row);
    if (Math.abs(goal) <= faults && row[goal + faults] === plan.length) return rows;
  }
  return null;
}

/** Moves what is missing or too much to the end of a run of one picture, where people look for it. */
function settle(own: Int32Array, other: Int32Array, pictures: Uint32Array): void {
  for (let frame = 0; frame + 1 < own.length; frame++) {
    const next = own[frame + 1] as number;
    if (own[frame] !== -1 || next === -1 || pictures[frame] !== pictures[frame + 1]) continue;
    own[frame] = next;
    other[next] = frame;
    own[frame + 1] = -1;
  }
}

/** Lays a file beside its plan by shared ids of their pictures; null when they differ by more faults than are sought. */
export function align(plan: Uint32Array, file: Uint32Array, mostFaults = MOST_FAULTS): Alignment | null {
  const rows = furthest(plan, file, mostFaults);
  if (!rows) return null;
  const fileOf = new Int32Array(plan.length).fill(-1);
  const planOf = new Int32Array(file.length).fill(-1);
  let diagonal = file.length - plan.length;
  let at = plan.length;
  const pair = (planFrame: number) => {
    fileOf[planFrame] = planFrame + diagonal;
    planOf[planFrame + diagonal] = planFrame;
  };
  for (let faults = rows.length - 1; faults >= 0; faults--) {
    const before = rows[faults - 1];
    const of = (other: number) => (before && Math.abs(other) < faults ? (before[other + faults - 1] as number) : NEVER);
    const same = of(diagonal);
    const extra = of(diagonal - 1);
    const missing = of(diagonal + 1);
    const bySame = same !== NEVER && same < plan.length && same + diagonal < file.length ? same + 1 : NEVER;
    const byExtra = extra !== NEVER && extra + diagonal <= file.length ? extra : NEVER;
    const byMissing = missing !== NEVER && missing < plan.length ? missing + 1 : NEVER;
    const start = faults === 0 ? 0 : Math.max(bySame, byExtra, byMissing);
    while (at > start) pair(--at);
    if (faults === 0) break;
    if (byExtra === start) diagonal--;
    else if (byMissing === start) {
      diagonal++;
      at--;
    } else pair(--at);
  }
  settle(fileOf, planOf, plan);
  settle(planOf, fileOf, file);
  return { fileOf, planOf, isSame: samePictures(plan, file, fileOf), faults: rows.length - 1 };
}

const samePictures = (plan: Uint32Array, file: Uint32Array, fileOf: Int32Array): Uint8Array =>
  Uint8Array.from(fileOf, (frame, planFrame) => (frame >= 0 && plan[planFrame] === file[frame] ? 1 : 0));

/** So many faults and more are sought by proportion first: that costs next to nothing. */
const MANY_FAULTS = 60;
/** A file is its plan stepped evenly when but this part of its frames are other than stepping has them. */
const MOST_OTHER_PART = 0.002;

/**
 * A file that is its plan stepped evenly to another number of frames (`core/conform/evenStepping`), laid beside it by that; null
 * where it isn't, or where the numbers are so near that the faults are quickly found one by one.
 */
export function alignStepped(plan: Uint32Array, file: Uint32Array): Alignment | null {
  const faults = Math.abs(file.length - plan.length);
  if (faults < MANY_FAULTS || plan.length === 0) return null;
  const planOf = Int32Array.from(file, (_, frame) => Math.floor((frame * plan.length) / file.length));
  let other = 0;
  for (let frame = 0; frame < file.length; frame++) if (plan[planOf[frame] as number] !== file[frame]) other++;
  if (other > MOST_OTHER_PART * file.length) return null;
  const fileOf = new Int32Array(plan.length).fill(-1);
  for (let frame = 0; frame < file.length; frame++) {
    const own = planOf[frame] as number;
    if (fileOf[own] === -1) fileOf[own] = frame;
    else planOf[frame] = -1;
  }
  return { fileOf, planOf, isSame: samePictures(plan, file, fileOf), faults: faults + other };
}
