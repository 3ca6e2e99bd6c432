'use client';
import { useEffect, useId, useState } from 'react';
import {
  CONTAINER_CODECS,
  type Container,
  canBeTransparent,
  type FilmOptions,
  type KeyFrames,
  LEAST_KILOBITS,
  MOST_KEY_FRAME_GAP,
  MOST_KILOBITS,
  optionsIn,
  QUALITIES,
  SOUND_CODEC_NAMES,
  type SoundCodec,
  VIDEO_CODEC_NAMES,
  type VideoCodec,
} from '@/core/output/film';
import { NumberField } from '@/features/handover/NumberField';
import { Row } from '@/features/handover/Row';
import { useProject } from '@/features/project/hooks';
import { Choice } from '@/ui/Choice';
import { CommitField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { writableCodecs } from '@/workers/client';

const QUALITY_OPTIONS = [
  ...QUALITIES.map((quality) => ({ value: quality, label: quality === 'small' ? 'small file' : quality })),
  { value: 'rate' as const, label: 'by bit rate' },
];

const KEY_FRAME_OPTIONS = [
  { value: 'every' as const, label: 'every n frames' },
  { value: 'changes' as const, label: 'each new drawing' },
  { value: 'all' as const, label: 'all frames (intra)' },
];

/** The codecs this browser writes at the project's size; null until that is known. */
function useWritableCodecs(): ReadonlySet<VideoCodec> | null {
  const { width, height } = useProject().size;
  const [known, setKnown] = useState<ReadonlySet<VideoCodec> | null>(null);
  useEffect(() => {
    let current = true;
    // What asks the browser comes from the server: while that is away every choice is open, and a handover says what is missing.
    writableCodecs({ width, height }).then(
      (codecs) => current && setKnown(codecs),
      () => current && setKnown(null),
    );
    return () => {
      current = false;
    };
  }, [width, height]);
  return known;
}

type Props = { readonly container: Container; readonly options: FilmOptions; readonly onChange: (options: FilmOptions) => void };

function PictureOptions({ container, options, onChange }: Props) {
  const writable = useWritableCodecs();
  const { quality, keyFrames } = options;
  const change = (part: Partial<FilmOptions>) => onChange(optionsIn(container, { ...options, ...part }));
  return (
    <>
      <Row name="Picture">
        <Choice<VideoCodec>
          label="Picture"
          value={options.video}
          options={CONTAINER_CODECS[container].video.map((video) => {
            const isMissing = writable !== null && !writable.has(video);
            return {
              value: video,
              label: VIDEO_CODEC_NAMES[video],
              disabled: isMissing,
              ...(isMissing ? { title: `This browser can’t write ${VIDEO_CODEC_NAMES[video]}` } : {}),
            };
          })}
          onChange={(video) => change({ video })}
        />
      </Row>
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="Quality"
          value={quality.by === 'rate' ? 'rate' : quality.quality}
          options={QUALITY_OPTIONS}
          onChange={(value) =>
            change({ quality: value === 'rate' ? { by: 'rate', kilobitsPerSecond: 8000 } : { by: 'scale', quality: value } })
          }
        />
        {quality.by === 'rate' && (
          <NumberField
            label="Kilobits a second"
            value={quality.kilobitsPerSecond}
            least={LEAST_KILOBITS}
            most={MOST_KILOBITS}
            onChange={(kilobitsPerSecond) => change({ quality: { by: 'rate', kilobitsPerSecond } })}
          />
        )}
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Select<KeyFrames['at']>
          label="Key frames"
          value={keyFrames.at}
          options={KEY_FRAME_OPTIONS}
          onChange={(at) => change({ keyFrames: at === 'every' ? { at, frames: 48 } : { at } })}
        />
        {keyFrames.at === 'every' && (
          <NumberField
            label="Frames"
            value={keyFrames.frames}
            least={1}
            most={MOST_KEY_FRAME_GAP}
            onChange={(frames) => change({ keyFrames: { at: 'every', frames } })}
          />
        )}
      </div>
    </>
  );
}

/** What the file says of itself. */
function FilmTags({ container, options, onChange }: Props) {
  const id = useId();
  const hasTimecode = container === 'webm' || container === 'mkv';
  return (
    <details className="rounded-lg border border-line p-2">
      <summary id={id} className="cursor-pointer font-semibold text-xs">
        What the file says of itself
      </summary>
      <div className="mt-2 space-y-2">
        <CommitField label="Title" maxLength={200} value={options.title} onCommit={(title) => onChange({ ...options, title })} />
        <CommitField
          label="Language, three letters (und: not said)"
          maxLength={3}
          value={options.language}
          onCommit={(language) => /^[a-z]{3}$/.test(language) && onChange({ ...options, language })}
        />
        {hasTimecode ? (
          <CommitField
            label="Timecode of the first frame"
            placeholder="01:00:00:00"
            value={options.timecode}
            onCommit={(timecode) => /^(\d\d:\d\d:\d\d[:;]\d\d)?$/.test(timecode) && onChange({ ...options, timecode })}
          />
        ) : (
          <p className="text-soft text-xs">A timecode to start with is written into WebM and MKV only.</p>
        )}
      </div>
    </details>
  );
}

/** How a film is coded: its picture, its sound, and what the file says of itself. */
export function FilmPanel(props: Props & { readonly isHeard: boolean; readonly withBackground: boolean }) {
  const { container, options, onChange, isHeard, withBackground } = props;
  return (
    <div className="space-y-2">
      <PictureOptions container={container} options={options} onChange={onChange} />
      {!withBackground && canBeTransparent(container, options) && (
        <Row name="Ground">
          <Choice
            label="Transparency"
            value={options.transparency ? 'kept' : 'white'}
            options={[
              { value: 'kept', label: 'Transparent' },
              { value: 'white', label: 'On white' },
            ]}
            onChange={(value) => onChange({ ...options, transparency: value === 'kept' })}
          />
        </Row>
      )}
      {isHeard ? (
        <Row name="Sound">
          <Choice<SoundCodec | 'none'>
            label="Sound"
            value={options.sound ?? 'none'}
            options={[
              ...CONTAINER_CODECS[container].sound.map((sound) => ({ value: sound, label: SOUND_CODEC_NAMES[sound] })),
              { value: 'none', label: 'No sound' },
            ]}
            onChange={(sound) => onChange({ ...options, sound: sound === 'none' ? null : sound })}
          />
        </Row>
      ) : (
        <p className="text-soft text-xs">Nothing is heard over these frames: the film has no sound.</p>
      )}
      <FilmTags container={container} options={options} onChange={onChange} />
    </div>
  );
}
