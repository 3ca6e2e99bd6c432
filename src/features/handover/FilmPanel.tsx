'use client';
import { useEffect, useId, useState } from 'react';
import {
  CONTAINER_CODECS,
  type Container,
  canBeTransparent,
  depthsOf,
  type FilmOptions,
  hasTimecode,
  isLossless,
  isOutside,
  type KeyFrames,
  LEAST_KILOBITS,
  MOST_KEY_FRAME_GAP,
  MOST_KILOBITS,
  optionsIn,
  QUALITIES,
  SOUND_CODEC_NAMES,
  type SoundCodec,
  soundsBeside,
  VIDEO_CODEC_NAMES,
  type VideoCodec,
} from '@/core/output/film';
import type { OutsideEncoder } from '@/core/output/outsideFilm';
import { NumberField } from '@/features/handover/NumberField';
import { Row } from '@/features/handover/Row';
import { TransparencyChoice } from '@/features/handover/TransparencyChoice';
import { useProject } from '@/features/project/hooks';
import { fetchOutsideEncoder } from '@/features/sync/api';
import { Choice } from '@/ui/Choice';
import { CommitField } from '@/ui/Field';
import { whenCalm } from '@/ui/later';
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

/** The outside encoder the server has; null until that is known. */
function useOutsideEncoder(): OutsideEncoder | null {
  const [encoder, setEncoder] = useState<OutsideEncoder | null>(null);
  useEffect(() => {
    let current = true;
    fetchOutsideEncoder().then(
      (found) => current && setEncoder(found),
      () => current && setEncoder({ found: false, reason: 'Whether there is an outside encoder is not known while the server is away.' }),
    );
    return () => {
      current = false;
    };
  }, []);
  return encoder;
}

/** What keeps a picture coding from being chosen; null where nothing does, as far as is known. */
function missingWords(video: VideoCodec, writable: ReadonlySet<VideoCodec> | null, encoder: OutsideEncoder | null): string | null {
  if (!isOutside(video)) return writable === null || writable.has(video) ? null : `This browser can’t write ${VIDEO_CODEC_NAMES[video]}`;
  if (encoder === null) return null;
  if (!encoder.found) return encoder.reason;
  return encoder.codecs.includes(video) ? null : `ffmpeg ${encoder.version} was made without ${VIDEO_CODEC_NAMES[video]}`;
}

/** The codecs this browser writes at the project's size; null until that is known. */
function useWritableCodecs(): ReadonlySet<VideoCodec> | null {
  const { width, height } = useProject().size;
  const [known, setKnown] = useState<ReadonlySet<VideoCodec> | null>(null);
  useEffect(() => {
    let current = true;
    // What asks the browser comes from the server: while that is away every choice is open, and a handover says what is missing.
    const callOff = whenCalm(() =>
      writableCodecs({ width, height }).then(
        (codecs) => current && setKnown(codecs),
        () => current && setKnown(null),
      ),
    );
    return () => {
      current = false;
      callOff();
    };
  }, [width, height]);
  return known;
}

type Props = { readonly container: Container; readonly options: FilmOptions; readonly onChange: (options: FilmOptions) => void };

function PictureOptions({ container, options, onChange }: Props) {
  const writable = useWritableCodecs();
  const encoder = useOutsideEncoder();
  const { keyFrames, video } = options;
  const codecs = CONTAINER_CODECS[container].video;
  const depths = depthsOf(video);
  const change = (part: Partial<FilmOptions>) => onChange(optionsIn(container, { ...options, ...part }));
  return (
    <>
      <Row name="Picture">
        <Choice<VideoCodec>
          label="Picture"
          value={options.video}
          options={codecs.map((codec) => {
            const missing = missingWords(codec, writable, encoder);
            return {
              value: codec,
              label: VIDEO_CODEC_NAMES[codec],
              disabled: missing !== null,
              ...(missing === null ? {} : { title: missing }),
            };
          })}
          onChange={(codec) => change({ video: codec })}
        />
      </Row>
      {codecs.some(isOutside) && encoder && <OutsideWords video={video} encoder={encoder} />}
      {depths.length > 1 && (
        <Row name="Colours">
          <Choice
            label="Bits a colour"
            value={String(options.depth)}
            options={depths.map((depth) => ({ value: String(depth), label: `${depth} bit` }))}
            onChange={(depth) => change({ depth: depth === '10' ? 10 : 8 })}
          />
        </Row>
      )}
      {!isLossless(video) && <QualityOptions options={options} change={change} />}
      {!isOutside(video) && (
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
      )}
    </>
  );
}

/** What writes a film that browsers can't, or what is missing for it. */
function OutsideWords({ video, encoder }: { video: VideoCodec; encoder: OutsideEncoder }) {
  if (!encoder.found) return <p className="text-soft text-xs">{encoder.reason}</p>;
  if (!isOutside(video)) return null;
  const kept = isLossless(video) ? 'Every pixel is kept. ' : '';
  return (
    <p className="text-soft text-xs">
      {kept}Every frame is a key frame. Written by ffmpeg {encoder.version} on the computer Lime Tick runs on.
    </p>
  );
}

type QualityProps = { readonly options: FilmOptions; readonly change: (part: Partial<FilmOptions>) => void };

function QualityOptions({ options: { quality, video }, change }: QualityProps) {
  const byRate = !isOutside(video);
  return (
    <div className="grid grid-cols-2 gap-2">
      <Select
        label="Quality"
        value={quality.by === 'rate' ? 'rate' : quality.quality}
        options={byRate ? QUALITY_OPTIONS : QUALITY_OPTIONS.filter(({ value }) => value !== 'rate')}
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
  );
}

/** What the file says of itself. */
function FilmTags({ container, options, onChange }: Props) {
  const id = useId();
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
        {hasTimecode(container, options.video) ? (
          <CommitField
            label="Timecode of the first frame"
            placeholder="01:00:00:00"
            value={options.timecode}
            onCommit={(timecode) => /^(\d\d:\d\d:\d\d[:;]\d\d)?$/.test(timecode) && onChange({ ...options, timecode })}
          />
        ) : (
          <p className="text-soft text-xs">A timecode to start with is written into WebM and MKV, and into MOV by the outside encoder.</p>
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
        <TransparencyChoice isKept={options.transparency} onChange={(transparency) => onChange({ ...options, transparency })} />
      )}
      {isHeard ? (
        <Row name="Sound">
          <Choice<SoundCodec | 'none'>
            label="Sound"
            value={options.sound ?? 'none'}
            options={[
              ...soundsBeside(container, options.video).map((sound) => ({ value: sound, label: SOUND_CODEC_NAMES[sound] })),
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
