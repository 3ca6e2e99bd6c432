import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { writeFindingsCsv } from '@/core/format/csv/findingsCsv';
import { GROUP_WORDS } from '@/features/check/groups';

/** A list of findings, open and kept, as CSV. */
export function findingsList(project: Project, open: readonly Finding[], kept: readonly (Finding & { readonly note: string })[]): string {
  const row = (finding: Finding, note: string | null) => {
    const shot = project.shots.find((entry) => entry.id === finding.place?.shotId);
    const level = shot?.levels.find((entry) => entry.id === finding.place?.levelId);
    return {
      group: GROUP_WORDS[finding.group],
      kind: finding.kind,
      shot: shot?.code ?? '',
      level: level?.name ?? '',
      fromFrame: finding.place ? finding.place.fromFrame + project.firstFrameNumber : null,
      toFrame: finding.place ? finding.place.toFrame + project.firstFrameNumber : null,
      sentence: finding.sentence,
      kept: note,
    };
  };
  return writeFindingsCsv([...open.map((finding) => row(finding, null)), ...kept.map((finding) => row(finding, finding.note))]);
}
