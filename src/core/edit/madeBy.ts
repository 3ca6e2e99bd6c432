/** Who made a change: the window it was made in, as it names itself, and the browser it is in. */
export type MadeBy = { readonly windowId: string; readonly words: string };
