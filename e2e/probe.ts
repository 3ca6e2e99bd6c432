import { execFileSync } from 'node:child_process';

/** What ffprobe says of a film, by counting its frames and reading every packet's time. */
export type Probed = {
  readonly frames: number;
  readonly rate: string;
  readonly seconds: number;
  readonly codec: string;
  readonly range: string;
  readonly times: readonly number[];
  readonly width: number;
  readonly height: number;
};

function ffprobe(...args: string[]): Record<string, unknown> {
  return JSON.parse(
    execFileSync('ffprobe', ['-v', 'error', '-of', 'json', ...args], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 }),
  ) as Record<string, unknown>;
}

/** Counts a film with a program that is not ours. */
export function probe(file: string): Probed {
  const { streams, format } = ffprobe('-count_frames', '-select_streams', 'v:0', '-show_streams', '-show_format', file) as {
    streams: Record<string, string>[];
    format: { duration: string };
  };
  const stream = streams[0];
  if (!stream) throw new Error(`${file} holds no film.`);
  const { packets } = ffprobe('-select_streams', 'v:0', '-show_entries', 'packet=pts_time', file) as { packets: { pts_time: string }[] };
  return {
    frames: Number(stream.nb_read_frames),
    rate: String(stream.r_frame_rate),
    seconds: Number(stream.duration ?? format.duration),
    codec: String(stream.codec_name),
    range: String(stream.color_range),
    width: Number(stream.width),
    height: Number(stream.height),
    times: packets.map((packet) => Number(packet.pts_time)).sort((a, b) => a - b),
  };
}

/** Frames that ffmpeg reads from a numbered picture sequence. */
export function countSequence(pattern: string, firstNumber: number): number {
  const output = execFileSync('ffmpeg', ['-v', 'error', '-start_number', String(firstNumber), '-i', pattern, '-f', 'framemd5', '-'], {
    encoding: 'utf8',
  });
  return output.split('\n').filter((line) => line !== '' && !line.startsWith('#')).length;
}
