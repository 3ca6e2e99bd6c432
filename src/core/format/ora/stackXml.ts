import type { BlendMode } from '@/core/document/blendModes';
import type { Size } from '@/core/document/model';

/*
 * The list of the layers of an OpenRaster picture, baseline 0.0.6 (freedesktop.org): the topmost first. Blending by the operators
 * of Compositing and Blending, as `svg:` names.
 */

/** A layer: its name, the file its PNG is in, and how it is laid. */
export type OraLayer = {
  readonly name: string;
  readonly source: string;
  readonly opacityPercent: number;
  readonly blend: BlendMode;
  readonly visible: boolean;
};

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[letter] ?? letter);

/** `layers` from the lowest up. */
export function stackXml({ width, height }: Size, layers: readonly OraLayer[]): string {
  const lines = layers.toReversed().map(({ name, source, opacityPercent, blend, visible }) => {
    const operator = blend === 'normal' ? 'svg:src-over' : `svg:${blend}`;
    const attributes = [
      `name="${escaped(name)}"`,
      `src="${escaped(source)}"`,
      'x="0" y="0"',
      `opacity="${(opacityPercent / 100).toFixed(2)}"`,
      `visibility="${visible ? 'visible' : 'hidden'}"`,
      `composite-op="${operator}"`,
    ];
    return `    <layer ${attributes.join(' ')}/>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<image version="0.0.6" w="${width}" h="${height}" xres="72" yres="72">`,
    '  <stack>',
    ...lines,
    '  </stack>',
    '</image>',
    '',
  ].join('\n');
}
