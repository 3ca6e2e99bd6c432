'use client';
import type { CSSProperties, ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { type Side, stagePanels } from '@/ui/stagePanels';
import { useMedia } from '@/ui/useMedia';

type Props = {
  /** What its layout is kept under. */
  readonly name: string;
  readonly left: ReactNode;
  readonly middle: ReactNode;
  readonly right: ReactNode;
  readonly leftPx?: number;
  readonly rightPx?: number;
  /** How tall what stands in the middle is at least where all stand under each other. */
  readonly middlePx?: number;
  /** Whether both sides step aside. */
  readonly isAlone?: boolean;
};

const LEFT_PX = 316;
const RIGHT_PX = 262;
const NARROWEST_PX = 200;
const NARROWEST_MIDDLE_PX = 340;
/** On a smaller screen the sides begin narrower. */
const SMALL_SIDE_PX = 244;

const FILLS = 'grid h-full grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)]';
/**
 * Each panel is a layer of its own to the browser: else the dozens of icons in them are sorted into layers together with all
 * canvases whenever anything changes, which takes as long as painting. A 3D transform, unlike a promise of change, leaves letters sharp.
 */
const CUT = { overflow: 'hidden', transform: 'translateZ(0)' } as const;

/** Between two panels: dragged, or moved by arrow keys, it makes them wider or narrower; Enter folds the one at the side and shows it again, a double press makes it as wide as at first. */
function Between({ side }: { side: Side }) {
  return (
    <Separator
      id={`beside-${side}`}
      aria-label={side === 'left' ? 'Width of the left panel' : 'Width of the right panel'}
      title={`Drag to make the ${side} panel wider or narrower; Enter folds it and shows it again`}
      className="group flex w-2.5 items-center justify-center rounded outline-offset-[-2px]"
    >
      <span className="h-9 w-[3px] rounded-full bg-line group-hover:bg-edge group-focus-visible:bg-edge" />
    </Separator>
  );
}

const WIDE = '(min-width: 901px)';

/**
 * Where layouts are kept. A window that is being made narrow squeezes the sides to nothing before they stand under each other: nobody
 * folded them, and that is not kept.
 */
const LAYOUTS = {
  getItem: (key: string) => localStorage.getItem(key),
  setItem: (key: string, layout: string) => {
    if (window.matchMedia(WIDE).matches) localStorage.setItem(key, layout);
  },
};

function WideStage({ name, left, middle, right, leftPx = LEFT_PX, rightPx = RIGHT_PX, isAlone = false }: Props) {
  const isSmall = useMedia('(max-width: 1150px)');
  const panelIds = isAlone ? ['middle'] : ['left', 'middle', 'right'];
  const kept = useDefaultLayout({ id: `lime-tick stage ${name}`, panelIds, storage: LAYOUTS });
  const side = (which: Side, wanted: number, children: ReactNode) => (
    <Panel
      key={which}
      id={which}
      defaultSize={isSmall ? Math.min(wanted, SMALL_SIDE_PX) : wanted}
      minSize={NARROWEST_PX}
      maxSize="48%"
      collapsible
      groupResizeBehavior="preserve-pixel-size"
      panelRef={(panel) => {
        stagePanels[which] = panel;
      }}
      className={FILLS}
      style={CUT}
    >
      {children}
    </Panel>
  );
  return (
    <Group id={`stage-${name}`} className="h-full" resizeTargetMinimumSize={{ coarse: 28, fine: 12 }} {...kept}>
      {!isAlone && side('left', leftPx, left)}
      {!isAlone && <Between key="beside-left" side="left" />}
      <Panel key="middle" id="middle" minSize={NARROWEST_MIDDLE_PX} className={FILLS} style={CUT}>
        {middle}
      </Panel>
      {!isAlone && <Between key="beside-right" side="right" />}
      {!isAlone && side('right', rightPx, right)}
    </Group>
  );
}

/**
 * The three panels of a stage: what stands at the left, the picture, what stands at the right. The sides can be made wider, narrower
 * and folded, and stay so. Upright and on a page as narrow as a zoomed one they stand under each other, as the `stage` class has it.
 */
export function Stage(props: Props) {
  const isWide = useMedia(WIDE);
  if (isWide) return <WideStage {...props} />;
  const { left, middle, right, middlePx = 420, isAlone = false } = props;
  return (
    <div className={isAlone ? 'grid h-full pt-2.5' : 'stage'} style={{ '--middle': `${middlePx}px` } as CSSProperties}>
      {!isAlone && left}
      {middle}
      {!isAlone && right}
    </div>
  );
}
