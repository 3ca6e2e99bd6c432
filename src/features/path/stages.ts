/** The stages of the job, in its order. */
export const STAGES = ['plan', 'draw', 'check', 'assemble', 'hand-over'] as const;
export type Stage = (typeof STAGES)[number];

export const STAGE_NAMES: Readonly<Record<Stage, string>> = {
  plan: 'Plan',
  draw: 'Draw',
  check: 'Check',
  assemble: 'Assemble',
  'hand-over': 'Hand over',
};

/** Whether a stage shows the sheet of the open shot. */
export const showsSheet = (stage: Stage): boolean => stage === 'plan' || stage === 'draw' || stage === 'check';

export const isStage = (name: string): name is Stage => STAGES.some((stage) => stage === name);

/** The stage an address shows. */
export const stageOf = (pathname: string): Stage => STAGES.find((stage) => pathname.endsWith(`/${stage}`)) ?? 'plan';

export const stageAddress = (projectId: string, stage: Stage): string => `/projects/${projectId}/${stage}`;

/** The page of a project's past, beside its stages. */
export const PAST = 'past';

/** Whether an address shows the past. */
export const isPastAddress = (pathname: string): boolean => pathname.endsWith(`/${PAST}`);

/** Goes to the past of the open project. */
export const goToPast = (projectId: string): void => window.history.pushState(null, '', `/projects/${projectId}/${PAST}`);

/** Goes to a stage of the open project: within the page, so that it works while the server doesn't answer. */
export const goToStage = (projectId: string, stage: Stage): void => window.history.pushState(null, '', stageAddress(projectId, stage));
