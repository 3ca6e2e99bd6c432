/*
 * Keys that browsers or systems keep for themselves: a page never hears of them, or may not keep them from doing what they do.
 * From memory and from the browsers' own lists of shortcuts; what one of them keeps is not given to a command.
 */

/** Each key with what it does there. `Mod` is Ctrl, or ⌘ on macOS. */
export const BROWSER_KEYS: Readonly<Record<string, string>> = {
  'Mod+N': 'opens a window',
  'Mod+Shift+N': 'opens a private window',
  'Mod+T': 'opens a tab',
  'Mod+Shift+T': 'opens the last closed tab',
  'Mod+W': 'closes the tab',
  'Mod+Shift+W': 'closes the window',
  'Mod+Q': 'closes the browser',
  'Mod+Shift+Q': 'closes the browser, or logs out',
  'Mod+Tab': 'goes to another tab',
  'Mod+Shift+Tab': 'goes to another tab',
  'Mod+PageUp': 'goes to the tab before',
  'Mod+PageDown': 'goes to the next tab',
  'Mod+Shift+PageUp': 'moves the tab',
  'Mod+Shift+PageDown': 'moves the tab',
  'Mod+L': 'goes to the address',
  'Mod+M': 'hides the window on macOS',
  'Mod+H': 'hides the program on macOS',
  'Mod+Shift+P': 'opens a private window in Firefox',
  'Mod+Shift+I': 'opens the browser’s own tools',
  'Mod+Shift+J': 'opens the browser’s own tools',
  'Mod+Shift+C': 'opens the browser’s own tools',
  'Alt+F4': 'closes the window',
  'Alt+Tab': 'goes to another program',
  'Alt+Home': 'goes to the first page',
  F5: 'loads the page again',
  'Mod+R': 'loads the page again',
  'Mod+Shift+R': 'loads the page again',
  'Shift+F5': 'loads the page again',
  F6: 'goes to the address',
  F11: 'fills the screen',
  F12: 'opens the browser’s own tools',
  'Mod+Space': 'changes the language of the keyboard on macOS',
};
