import { execFileSync } from 'node:child_process';

export type MediainfoTrack = Record<string, string>;

/** What mediainfo says of a file: one record for the whole, and one for each track. */
export const tracksIn = (file: string): readonly MediainfoTrack[] =>
  (JSON.parse(execFileSync('mediainfo', ['--Output=JSON', file], { encoding: 'utf8' })) as { media: { track: MediainfoTrack[] } }).media
    .track;

/** How many frames mediainfo says a film has: it counts those of MP4 and MOV; of Matroska it says what the file's length and rate come to. */
export function framesByMediainfo(file: string): number {
  const [general, video] = ['General', 'Video'].map((type) => tracksIn(file).find((track) => track['@type'] === type));
  return Number(video?.FrameCount ?? general?.FrameCount);
}
