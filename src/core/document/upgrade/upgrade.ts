import { DOCUMENT_VERSION } from '@/core/document/model';
import type { StoredValue } from '@/core/document/upgrade/stored';
import { documentFromV1, stepFromV1 } from '@/core/document/upgrade/v1';
import { documentFromV2, stepFromV2 } from '@/core/document/upgrade/v2';
import { documentFromV3, stepFromV3 } from '@/core/document/upgrade/v3';

/** Brings a value of a form to the next one. Throws when it is not of that form. */
type Upgrade = (old: StoredValue) => StoredValue;

/** `[n]` brings form n + 1 to form n + 2. One file a form, beside this one. */
const DOCUMENT_UPGRADES: readonly Upgrade[] = [documentFromV1, documentFromV2, documentFromV3];
const STEP_UPGRADES: readonly Upgrade[] = [stepFromV1, stepFromV2, stepFromV3];

/** The form steps are written in; it goes with the form of documents. */
export const STEP_VERSION = STEP_UPGRADES.length + 1;

const upgraded = (value: StoredValue, version: number, upgrades: readonly Upgrade[]): StoredValue =>
  upgrades.slice(version - 1).reduce((old, upgrade) => upgrade(old), value);

/** A document of form `version` (from 1), as it is in today's form. Throws when it is not of that form. */
export const upgradeDocument = (document: StoredValue, version: number): StoredValue => ({
  ...upgraded(document, version, DOCUMENT_UPGRADES),
  version: DOCUMENT_VERSION,
});

/** A step of form `version` (from 1), as it is in the next form. Throws when it is not of that form. */
export const stepInNextForm = (step: StoredValue, version: number): StoredValue => upgraded(step, version, STEP_UPGRADES.slice(0, version));

/** A step of form `version` (from 1), as it is in today's form. Throws when it is not of that form. */
export const upgradeStep = (step: StoredValue, version: number): StoredValue => upgraded(step, version, STEP_UPGRADES);
