'use client';
import { useEffect, useState } from 'react';
import { LAYOUTS } from '@/core/output/names';
import { PICTURE_KIND_FACTS, type PictureKind, type PictureOptions, pictureOptionsIn } from '@/core/output/pictures';
import { QualityOptions } from '@/features/handover/QualityOptions';
import { Row } from '@/features/handover/Row';
import { Choice } from '@/ui/Choice';

type Props = { readonly kind: PictureKind; readonly options: PictureOptions; readonly onChange: (options: PictureOptions) => void };

/** How pixels are kept: bits, quality, transparency. */
function PixelOptions({ kind, options, onChange }: Props) {
  const { name, depths, alphas, lossy } = PICTURE_KIND_FACTS[kind];
  return (
    <>
      {depths.length > 1 && (
        <Row name="Depth">
          <Choice
            label="Depth"
            value={String(options.depth)}
            options={depths.map((depth) => ({ value: String(depth), label: `${depth} bit` }))}
            onChange={(value) => onChange({ ...options, depth: value === '16' ? 16 : 8 })}
          />
        </Row>
      )}
      <QualityOptions quality={options.quality} canKeepAll={lossy === 'asked'} onChange={(quality) => onChange({ ...options, quality })} />
      {alphas.length > 1 && (
        <Row name="Alpha">
          <Choice
            label="Alpha"
            value={options.alpha}
            options={[
              { value: 'straight', label: 'Straight' },
              { value: 'premultiplied', label: 'Premultiplied' },
            ]}
            onChange={(alpha) => onChange({ ...options, alpha })}
          />
        </Row>
      )}
      {alphas.length === 0 && <p className="text-soft text-xs">{name} has no transparency: pictures are on white.</p>}
    </>
  );
}

/** Whether this browser writes into folders; false until that is known. */
function useFolders(): boolean {
  const [can, setCan] = useState(false);
  useEffect(() => setCan('showDirectoryPicker' in window), []);
  return can;
}

/** How picture files are coded, what one file is for, and where they go. */
export function PicturesPanel({ kind, options, onChange, onReel }: Props & { readonly onReel: boolean }) {
  const canPickFolder = useFolders();
  const change = (part: Partial<PictureOptions>) => onChange(pictureOptionsIn(kind, { ...options, ...part }));
  return (
    <div className="space-y-2">
      <PixelOptions kind={kind} options={options} onChange={onChange} />
      <Row name="One file a">
        <Choice
          label="One file a"
          value={options.each}
          options={[
            { value: 'frame', label: 'Frame' },
            { value: 'drawing', label: 'Drawing', title: 'Each picture once, with a list of the frames it is seen on' },
          ]}
          onChange={(each) => change({ each })}
        />
      </Row>
      <Row name="Levels">
        <Choice
          label="Levels"
          value={options.split}
          options={[
            { value: 'together', label: 'Together' },
            { value: 'levels', label: 'Each by itself', title: 'Wholly seen, without blending and finish' },
          ]}
          onChange={(split) => change({ split, names: split === 'together' ? LAYOUTS.flat : onReel ? LAYOUTS.shotLevel : LAYOUTS.level })}
        />
      </Row>
      <Row name="Into">
        <Choice
          label="Into"
          value={options.within}
          options={[
            { value: 'zip', label: 'In one ZIP' },
            {
              value: 'folder',
              label: 'Into a folder',
              disabled: !canPickFolder,
              ...(canPickFolder ? {} : { title: 'This browser can’t write into a folder: take the ZIP.' }),
            },
          ]}
          onChange={(within) => change({ within })}
        />
      </Row>
    </div>
  );
}
