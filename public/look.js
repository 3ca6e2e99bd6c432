// Sets how the program looks before anything is painted, and whenever the person or the system changes it; see src/ui/look.ts.
(() => {
  const dark = window.matchMedia('(prefers-color-scheme: dark)');
  const contrast = window.matchMedia('(prefers-contrast: more)');
  const kept = () => {
    try {
      return (localStorage.getItem('lime-tick-look') ?? '').split(' ');
    } catch {
      // Where nothing can be kept it looks as the system has it.
      return [];
    }
  };
  const apply = () => {
    const look = kept();
    const root = document.documentElement;
    root.toggleAttribute('data-night', look.includes('night') || (!look.includes('day') && dark.matches));
    root.toggleAttribute('data-contrast', look.includes('contrast') || contrast.matches);
  };
  apply();
  dark.addEventListener('change', apply);
  contrast.addEventListener('change', apply);
  window.addEventListener('lime-tick-look', apply);
})();
