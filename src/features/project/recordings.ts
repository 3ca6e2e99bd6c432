import { useEffect } from 'react';
import { create } from 'zustand';
import type { SoundFacts } from '@/core/analysis/facts';
import type { Project } from '@/core/document/model';
import { everySound } from '@/core/reel/sounds';
import { fetchOriginal } from '@/features/sync/api';
import { whenClosed } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';
import { type DecodedRecording, decodeRecording } from '@/workers/client';

/*
 * Recordings of the open project, decoded. How loud each is along its length is kept, since it is drawn all the
 * time; the samples themselves only as far as memory allows, the longest unused let go and decoded again when they
 * are to be heard.
 */

/** What is heard is held once more, as it is mixed. */
const MOST_HELD_BYTES = 128 * 1024 * 1024;

type RecordingState = {
  readonly facts: SoundFacts;
  /** How loud recordings are along their length, by the digest of their files. See `@/core/sound/peaks`. */
  readonly peaks: ReadonlyMap<string, Uint8Array>;
};

export const useRecordingStore = create<RecordingState>(() => ({ facts: new Map(), peaks: new Map() }));

/** Why a recording can't be heard. */
export class RecordingUnavailable extends Error {
  override readonly name = 'Unheard';
}

const held = new Map<string, DecodedRecording>();
const coming = new Map<string, Promise<DecodedRecording>>();
const never = new AbortController().signal;

whenClosed(() => {
  held.clear();
  useRecordingStore.setState({ facts: new Map(), peaks: new Map() });
});

const bytesOf = ({ channels, samples }: DecodedRecording) => channels.length * samples * 4;

function keep(original: string, decoded: DecodedRecording): void {
  held.set(original, decoded);
  let bytes = [...held.values()].reduce((sum, each) => sum + bytesOf(each), 0);
  for (const [oldest, old] of held) {
    if (bytes <= MOST_HELD_BYTES || oldest === original) break;
    held.delete(oldest);
    bytes -= bytesOf(old);
  }
}

function tell(original: string, fact: SoundFacts extends ReadonlyMap<string, infer Fact> ? Fact : never, peaks?: Uint8Array): void {
  useRecordingStore.setState((state) => ({
    facts: new Map(state.facts).set(original, fact),
    peaks: peaks ? new Map(state.peaks).set(original, peaks) : state.peaks,
  }));
}

/** Takes note of a recording that has just been decoded, so that it isn't again. */
export function knowRecording(original: string, decoded: DecodedRecording): void {
  keep(original, decoded);
  tell(original, { samples: decoded.samples, sampleRate: decoded.sampleRate }, decoded.peaks);
}

async function load(original: string): Promise<DecodedRecording> {
  const file = await fetchOriginal(original, never);
  if (!file) {
    tell(original, 'missing');
    throw new RecordingUnavailable('The recording is not in the store.');
  }
  const decoded = await decodeRecording(file, () => undefined, never);
  if (decoded.kind === 'refused') {
    tell(original, 'broken');
    throw new RecordingUnavailable(decoded.reason);
  }
  knowRecording(original, decoded);
  return decoded;
}

/** A recording's samples; rejects when it is missing. */
export function recording(original: string): Promise<DecodedRecording> {
  const ready = held.get(original);
  if (ready) {
    held.delete(original);
    held.set(original, ready);
    return Promise.resolve(ready);
  }
  const fact = useRecordingStore.getState().facts.get(original);
  if (typeof fact === 'string') return Promise.reject(new RecordingUnavailable('The recording is missing or could not be read.'));
  let loading = coming.get(original);
  if (!loading) {
    loading = load(original).finally(() => coming.delete(original));
    coming.set(original, loading);
  }
  return loading;
}

/** Every recording a project names, once each. */
export const recordingsOf = (project: Project): readonly string[] => [
  ...new Set(everySound(project).map(({ sound }) => sound.recording.original)),
];

/** Listens to the recordings of a project, one after another, so that they can be drawn and are known to be there. */
export function useListening(project: Project): void {
  const wanted = recordingsOf(project).join(' ');
  useEffect(() => {
    let current = true;
    const listen = async () => {
      const left = wanted === '' ? [] : wanted.split(' ');
      while (left.length > 0 && current) {
        const original = left[0] as string;
        try {
          if (!useRecordingStore.getState().facts.has(original)) await recording(original);
          left.shift();
        } catch (error) {
          // One that is known not to be there is told by a finding; for a server that doesn't answer this one and those after it wait.
          if (error instanceof RecordingUnavailable) left.shift();
          else await serverRetryer.wait();
        }
      }
    };
    void listen();
    return () => {
      current = false;
    };
  }, [wanted]);
}
