import { done, type Outcome, refused } from '@/core/outcome';
import { nominalRate, type Rate, rateName } from '@/core/time/rate';

/*
 * Drop-frame timecode (SMPTE ST 12-1) leaves no frame out: it skips numbers, so that the count keeps
 * up with the clock. At 30000/1001 numbers 00 and 01 are skipped in each minute but every tenth:
 * 60·30 − 2 = 1,798 frames a dropping minute, 10·60·30 − 9·2 = 17,982 frames in ten minutes.
 * At 60000/1001 twice as many. To go from frame to number, add the numbers skipped so far.
 */

/** How many numbers drop-frame skips a minute at this rate; 0 where drop-frame does not exist. */
export function droppedNumbersPerMinute(rate: Rate): number {
  if (rate.den !== 1001) return 0;
  if (rate.num === 30000) return 2;
  if (rate.num === 60000) return 4;
  return 0;
}

/** Whether drop-frame timecode exists at this rate (30000/1001 and 60000/1001 only). */
export const hasDropFrame = (rate: Rate): boolean => droppedNumbersPerMinute(rate) > 0;

const twoDigits = (value: number) => String(value).padStart(2, '0');

/**
 * Timecode of a frame counted from 0: `00:00:01:06`; drop-frame is written with `;` before the frames.
 * Wraps after 24 hours, as timecode does. Throws when drop-frame is asked for where there is none.
 */
export function timecodeOf(frameIndex: number, rate: Rate, drop = false): string {
  const perSecond = nominalRate(rate);
  let number = frameIndex;
  if (drop) {
    const dropped = droppedNumbersPerMinute(rate);
    if (dropped === 0) throw new Error(`There is no drop-frame timecode at ${rateName(rate)}.`);
    const perMinute = perSecond * 60 - dropped;
    const perTenMinutes = perMinute * 10 + dropped;
    const tens = Math.floor(frameIndex / perTenMinutes);
    const rest = frameIndex % perTenMinutes;
    const minutesDropped = rest < dropped ? 0 : Math.floor((rest - dropped) / perMinute);
    number += dropped * (9 * tens + minutesDropped);
  }
  const frames = number % perSecond;
  const seconds = Math.floor(number / perSecond);
  const separator = drop ? ';' : ':';
  return `${twoDigits(Math.floor(seconds / 3600) % 24)}:${twoDigits(Math.floor(seconds / 60) % 60)}:${twoDigits(seconds % 60)}${separator}${String(frames).padStart(perSecond > 100 ? 3 : 2, '0')}`;
}

/** The frame, counted from 0, that a timecode names. A `;` or `.` before the frames means drop-frame. */
export function frameOfTimecode(text: string, rate: Rate): Outcome<number> {
  const parts = /^(\d{1,2}):(\d{1,2}):(\d{1,2})([:;.])(\d{1,3})$/.exec(text.trim());
  if (!parts) return refused(`“${text}” is not a timecode: write hours:minutes:seconds:frames, as 00:00:04:00.`);
  const [hours, minutes, seconds, frames] = [parts[1], parts[2], parts[3], parts[5]].map(Number) as [number, number, number, number];
  const perSecond = nominalRate(rate);
  const drop = parts[4] !== ':';
  if (hours > 23 || minutes > 59 || seconds > 59 || frames >= perSecond) {
    return refused(
      `There is no timecode ${text}: at ${rateName(rate)} frames run from 00 to ${perSecond - 1}, minutes and seconds to 59, hours to 23.`,
    );
  }
  const number = ((hours * 60 + minutes) * 60 + seconds) * perSecond + frames;
  if (!drop) return done(number);
  const dropped = droppedNumbersPerMinute(rate);
  if (dropped === 0) return refused(`“${text}” is drop-frame, and there is no drop-frame at ${rateName(rate)}: use “:” throughout.`);
  const totalMinutes = hours * 60 + minutes;
  if (seconds === 0 && frames < dropped && minutes % 10 !== 0) {
    return refused(`Drop-frame timecode skips the number ${text}: the minute starts with frame ${twoDigits(dropped)}.`);
  }
  return done(number - dropped * (totalMinutes - Math.floor(totalMinutes / 10)));
}
