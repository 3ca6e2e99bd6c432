import { useEffect, useState } from 'react';

/** How many pixels of the screen stand for one of the page: changes with the browser's zoom and from screen to screen. */
export type CanvasLook = { readonly pixelRatio: number; readonly changes: number };

/**
 * What canvases have to be painted anew for: another theme, more contrast, colours of the system, a face that has come,
 * another zoom. What is made of elements follows these by itself; what is painted doesn't.
 */
export function useCanvasLook(): CanvasLook {
  const [look, setLook] = useState<CanvasLook>(() => ({
    pixelRatio: typeof window === 'undefined' ? 1 : window.devicePixelRatio,
    changes: 0,
  }));
  useEffect(() => {
    const change = () => setLook(({ changes }) => ({ pixelRatio: window.devicePixelRatio, changes: changes + 1 }));
    const root = new MutationObserver(change);
    root.observe(document.documentElement, { attributes: true, attributeFilter: ['data-night', 'data-contrast'] });
    const forced = window.matchMedia('(forced-colors: active)');
    forced.addEventListener('change', change);
    document.fonts.addEventListener('loadingdone', change);
    let ratio: MediaQueryList | null = null;
    const watchRatio = () => {
      ratio?.removeEventListener('change', changeRatio);
      ratio = window.matchMedia(`(resolution: ${window.devicePixelRatio}dppx)`);
      ratio.addEventListener('change', changeRatio);
    };
    const changeRatio = () => {
      watchRatio();
      change();
    };
    watchRatio();
    return () => {
      root.disconnect();
      forced.removeEventListener('change', change);
      document.fonts.removeEventListener('loadingdone', change);
      ratio?.removeEventListener('change', changeRatio);
    };
  }, []);
  return look;
}
