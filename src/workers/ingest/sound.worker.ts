import { expose, transfer } from 'comlink';
import { decodeSound } from '@/workers/ingest/decodeSound';
import type { SoundWorker } from '@/workers/protocol';

const worker: SoundWorker = {
  async decode(file, onProgress) {
    const decoded = await decodeSound(file, (part) => void onProgress(part));
    return decoded.kind === 'decoded'
      ? transfer(decoded, [...decoded.channels.map((channel) => channel.buffer), decoded.peaks.buffer])
      : decoded;
  },
};

expose(worker);
