import { create } from 'zustand';

/*
 * How the program looks: by day, by night, or as the system has it; and with more contrast, which systems can ask for too. It is
 * kept in this browser and set on the page before anything is painted (public/look.js). What lies on white paper is always seen by day.
 */

export const THEMES = ['system', 'day', 'night'] as const;
export type Theme = (typeof THEMES)[number];
export type Look = { readonly theme: Theme; readonly moreContrast: boolean };

const KEY = 'lime-tick-look';
const START: Look = { theme: 'system', moreContrast: false };

function kept(): Look {
  if (typeof localStorage === 'undefined') return START;
  const words = (localStorage.getItem(KEY) ?? '').split(' ');
  return { theme: THEMES.find((theme) => words.includes(theme)) ?? 'system', moreContrast: words.includes('contrast') };
}

export const useLookStore = create<Look>(() => START);

/** Takes up what was kept on an earlier visit. */
export const recallLook = (): void => useLookStore.setState(kept());

/** Sets how the program looks, at once and for later visits. */
export function setLook(change: Partial<Look>): void {
  const look = { ...kept(), ...change };
  localStorage.setItem(KEY, `${look.theme}${look.moreContrast ? ' contrast' : ''}`);
  window.dispatchEvent(new Event(KEY));
  useLookStore.setState(look);
}

const colours = new Map<string, string>();

/** Where the system sets all colours, what is painted keeps to them as well: the words have the one, what lies under them the other. */
const SYSTEM_GROUNDS: ReadonlySet<string> = new Set(['ground', 'desk', 'paper', 'sunk', 'hold']);

/** A colour of the theme as a canvas takes it, by how the program looks now. */
export function colourNow(name: string): string {
  if (window.matchMedia('(forced-colors: active)').matches)
    return SYSTEM_GROUNDS.has(name) ? 'Canvas' : name === 'lime-wash' ? 'Highlight' : name === 'onwash' ? 'HighlightText' : 'CanvasText';
  const root = document.documentElement;
  const key = `${name} ${root.hasAttribute('data-night')} ${root.hasAttribute('data-contrast')}`;
  const known = colours.get(key);
  if (known !== undefined) return known;
  const colour = getComputedStyle(root).getPropertyValue(`--color-${name}`);
  colours.set(key, colour);
  return colour;
}
