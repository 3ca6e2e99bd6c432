import { expose } from 'comlink';
import { countClip } from '@/workers/ingest/countClip';
import { runClip } from '@/workers/ingest/readClip';
import type { ClipWorker } from '@/workers/protocol';

const stopper = new AbortController();

const worker: ClipWorker = {
  read: (file, size, onFacts, onFrames) => runClip(file, size, onFacts, onFrames, stopper.signal),
  count: (file, onProgress) => countClip(file, (part) => void onProgress(part), stopper.signal),
  stop: () => stopper.abort(),
};

expose(worker);
