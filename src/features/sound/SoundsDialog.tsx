'use client';
import { useSoundsStore } from '@/features/commands/soundCommands';
import { useHasShot, useShot } from '@/features/project/hooks';
import { SoundsPanel } from '@/features/sound/SoundsPanel';
import { Dialog } from '@/ui/Dialog';

/** The sounds of the open shot, at any stage. */
export function SoundsDialog() {
  const isOpen = useSoundsStore((state) => state.isOpen);
  const hasShot = useHasShot();
  return isOpen && hasShot ? <Sounds /> : null;
}

function Sounds() {
  const shot = useShot();
  return (
    <Dialog
      title={`Sounds of shot ${shot?.code ?? ''}`}
      about="Each starts as one of the shot’s frames starts, and moves with the shot."
      open
      onOpenChange={(open) => useSoundsStore.setState({ isOpen: open })}
    >
      {shot && <SoundsPanel shot={shot} />}
    </Dialog>
  );
}
