import { PACKAGE_VERSION, type PackageFacts, packageSchema, projectSchema } from '@/contracts/package';
import { sentenceOf } from '@/contracts/sentence';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import { upgradeDocument } from '@/core/document/upgrade/upgrade';
import { checkStorable } from '@/core/edit/wellFormed';
import { checkWholeShot } from '@/core/edit/wholeness';
import { done, type Outcome, refused } from '@/core/outcome';
import { countText } from '@/core/time/counts';

/* What `project.json` in a package says, checked: wherever a package is opened, by the server or in a page. */

/** The file of a package that says all about it, and the most bytes it may have. */
export const FACTS_FILE = 'project.json';
export const MOST_FACTS_BYTES = 512 * 1024 * 1024;

export const NO_FACTS = 'There is no project.json in it: it is not a package of Lime Tick.';

/** Refused where `project.json` has more bytes than are read. */
export const checkFactsBytes = (sizeBytes: number): Outcome<null> =>
  sizeBytes > MOST_FACTS_BYTES
    ? refused(`Its project.json has ${countText(sizeBytes)} bytes; ${countText(MOST_FACTS_BYTES)} is the most.`)
    : done(null);

/** What a package's `project.json` says, and its project in today's form. */
export function readPackageFacts(bytes: Uint8Array): Outcome<{ readonly facts: PackageFacts; readonly project: Project }> {
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return refused('Its project.json is not JSON.');
  }
  const storable = checkStorable(value);
  if (!storable.ok) return refused(`Its project.json can’t be kept: ${storable.reason}`);
  const version = typeof value === 'object' && value !== null && 'version' in value ? Number(value.version) : 0;
  if (version > PACKAGE_VERSION)
    return refused(`It was written by a newer Lime Tick (form ${version}; this one reads up to ${PACKAGE_VERSION}): bring it in there.`);
  const facts = packageSchema.safeParse(value);
  if (!facts.success) return refused(`Its project.json could not be read: ${sentenceOf(facts.error)}`);
  const project = documentOf(facts.data);
  return project.ok ? done({ facts: facts.data, project: project.value }) : project;
}

function documentOf({ document }: PackageFacts): Outcome<Project> {
  if (document.version > DOCUMENT_VERSION)
    return refused(
      `Its project was written by a newer Lime Tick (form ${document.version}; this one reads up to ${DOCUMENT_VERSION}): bring it in there.`,
    );
  let upgraded: unknown;
  try {
    upgraded = upgradeDocument(document as unknown as Parameters<typeof upgradeDocument>[0], document.version);
  } catch (error) {
    return refused(
      `Its project is not of form ${document.version}, as it says (${error instanceof Error ? error.message : 'unreadable'}).`,
    );
  }
  return checkWholeProject(upgraded);
}

/** A project that comes whole, checked: what it is made of, and that its shots and its reel can stand together. */
export function checkWholeProject(value: unknown): Outcome<Project> {
  const parsed = projectSchema.safeParse(value);
  if (!parsed.success) return refused(`Its project could not be read: ${sentenceOf(parsed.error)}`);
  const project = parsed.data as Project;
  // Each shot must be able to stand beside those before it.
  let known: Project = { ...project, shots: [] };
  for (const shot of project.shots) {
    if (known.shots.some(({ id }) => id === shot.id)) return refused(`Shot ${shot.code} is in it twice.`);
    const whole = checkWholeShot({ ...known, reel: { ...known.reel, sounds: [] } }, shot);
    if (!whole.ok) return refused(`Its shot ${shot.code}: ${whole.reason}`);
    known = { ...known, shots: [...known.shots, shot] };
  }
  const ids = new Set(project.shots.map(({ id }) => id));
  if (project.reel.items.some((item) => item.kind === 'shot' && !ids.has(item.shotId)))
    return refused('Its reel shows a shot that is not in it.');
  if (new Set(project.reel.items.map(({ id }) => id)).size !== project.reel.items.length) return refused('Its reel has one item twice.');
  return done(project);
}
