'use client';
import type { ClipItem } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { refused } from '@/core/outcome';
import { clipLengthWords, clipRateWords, conversionWords, readClipItem } from '@/core/reel/clipItems';
import { setGapLength } from '@/core/reel/itemEdits';
import { startItemOn } from '@/core/reel/moveItems';
import type { PlacedItem } from '@/core/reel/reel';
import { slipItem, trimItem, trimOf } from '@/core/reel/trimItems';
import { countsOfMoment, parseLength, parseMoment, plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';
import { commandCalled, hint } from '@/features/commands/everyCommand';
import { chosenItems, takeOnReel } from '@/features/commands/reelCommands';
import { goToStage } from '@/features/path/stages';
import { newId } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { CommitCell } from '@/ui/CommitCell';

const FIELD = 'numbers w-20 border-line! bg-paper! text-right';

function NumberRow({ label, words, value, onCommit }: { label: string; words: string; value: string; onCommit: (text: string) => void }) {
  return (
    <div className="flex items-center justify-between gap-3 text-xs">
      <span className="text-soft">{words}</span>
      <CommitCell label={label} value={value} onCommit={onCommit} className={FIELD} />
    </div>
  );
}

/** A command as a button, with its key in its hint. */
function CommandButton({ id, words }: { id: string; words: string }) {
  return (
    <Button tight onClick={() => commandCalled(id).run()} title={hint(commandCalled(id).words(), id)}>
      {words}
    </Button>
  );
}

/** What an item shows of its shot or clip, by numbers that are written over. */
function Trim({ placed }: { placed: PlacedItem }) {
  const project = useProject();
  const { item, source } = placed;
  const { fromFrame, frames } = trimOf(placed);
  const first = project.firstFrameNumber;
  if (!source || item.kind === 'gap') return null;
  const { name } = source;
  const moment = (text: string) => parseMoment(text, project.rate, first);
  const shownFrom = (text: string) => {
    const from = moment(text);
    if (!from.ok) return from;
    return trimItem(project, item.id, { fromFrame: from.value, frames: fromFrame + frames - from.value });
  };
  const shownTo = (text: string) => {
    const to = moment(text);
    return to.ok ? trimItem(project, item.id, { fromFrame, frames: to.value - fromFrame + 1 }) : to;
  };
  const slip = (text: string) =>
    /^[+-]?\d{1,7}$/.test(text.trim()) ? slipItem(project, item.id, Number(text)) : refused('Slip by whole frames, as 4 or -4.');
  return (
    <div className="space-y-1.5 border-line border-t pt-3">
      <div className="flex items-center justify-between">
        <h3 className="font-semibold text-xs">Of its {plural(source.frames, 'frame')}</h3>
        {item.trim === null ? (
          <span className="text-soft text-xs">{item.kind === 'shot' ? 'whole, following the shot' : 'whole'}</span>
        ) : (
          <CommandButton id="reel-whole" words="Show it whole" />
        )}
      </div>
      <NumberRow
        words="from its frame"
        label={`First frame of ${name} that is shown`}
        value={String(fromFrame + first)}
        onCommit={(text) => takeOnReel(shownFrom(text))}
      />
      <NumberRow
        words="to its frame"
        label={`Last frame of ${name} that is shown`}
        value={String(fromFrame + frames - 1 + first)}
        onCommit={(text) => takeOnReel(shownTo(text))}
      />
      {item.trim && (
        <NumberRow words="slip by frames" label={`Frames to slip ${name} by`} value="0" onCommit={(text) => takeOnReel(slip(text))} />
      )}
    </div>
  );
}

/** A clip's own rate, how it is read in this film, and what comes of both ways. */
function ClipRate({ item }: { item: ClipItem }) {
  const project = useProject();
  const { rate, firstFrameNumber } = project;
  const { clip, way } = item;
  return (
    <div className="space-y-1 pt-1 text-xs">
      <p className="numbers text-soft">
        {plural(clip.frames, 'frame')}, {clipRateWords(clip)}, {sizeText(clip.size)}
      </p>
      <Choice
        label="How the clip is read"
        value={way}
        options={[
          { value: 'converted', label: `Keep its time: ${clipLengthWords(clip, 'converted', rate)}` },
          { value: 'readAs', label: `Frame for frame: ${clipLengthWords(clip, 'readAs', rate)}` },
        ]}
        onChange={(next) => takeOnReel(readClipItem(project, item.id, next))}
      />
      <p>
        {way === 'converted'
          ? `At ${rateName(rate)} a second, ${conversionWords(clip, rate, firstFrameNumber)}.`
          : 'Each of its frames is one of the film’s.'}
      </p>
    </div>
  );
}

/** One item: where it starts, how long it is, what it shows, at which rate. */
function OneItem({ placed }: { placed: PlacedItem }) {
  const project = useProject();
  const { item, source, shot, startFrame, endFrame } = placed;
  const frames = endFrame - startFrame;
  const first = project.firstFrameNumber;
  const name = source?.name ?? 'the gap';
  const startOn = (text: string) => {
    const frame = parseMoment(text, project.rate, first);
    return frame.ok ? startItemOn(project, item.id, frame.value, newId) : frame;
  };
  const gapOf = (text: string) => {
    if (text.trim() === '0') return setGapLength(project, item.id, 0);
    const length = parseLength(text, project.rate);
    return length.ok ? setGapLength(project, item.id, length.value) : length;
  };
  const counts = countsOfMoment(startFrame, project.rate, first);
  return (
    <div className="space-y-3">
      <div>
        <h2 className="font-bold">
          {shot ? (
            <>
              <span className="numbers">{shot.code}</span> {shot.name}
            </>
          ) : (
            (source?.name ?? 'Gap')
          )}
        </h2>
        <p className="numbers text-soft text-xs">
          {plural(frames, 'frame')} = {secondsText(frames, project.rate)} s · {counts.timecode}
        </p>
        {item.kind === 'clip' ? (
          <ClipRate item={item} />
        ) : (
          <p className="text-soft text-xs">
            {shot ? `Read at ${rateName(project.rate)}, the film’s rate: each of its frames once.` : 'Paper; sounds go on over it.'}
          </p>
        )}
      </div>
      <div className="space-y-1.5">
        <NumberRow
          words="starts on frame"
          label={`Frame of the reel ${name} starts on`}
          value={String(startFrame + first)}
          onCommit={(text) => takeOnReel(startOn(text))}
        />
        {!source && (
          <NumberRow words="frames" label="Frames of the gap" value={String(frames)} onCommit={(text) => takeOnReel(gapOf(text))} />
        )}
      </div>
      <Trim placed={placed} />
      {project.finish.length > 0 && (
        <label className="flex items-center gap-2 border-line border-t pt-3 text-xs">
          <input type="checkbox" checked={item.finished} onChange={commandCalled('reel-finish').run} />
          The film’s finish lies over it
        </label>
      )}
      <div className="flex flex-wrap gap-1 border-line border-t pt-3">
        <CommandButton id="reel-earlier" words="Earlier" />
        <CommandButton id="reel-later" words="Later" />
        <CommandButton id="reel-split" words="Split here" />
        {source ? <CommandButton id="reel-again" words="Use again" /> : <CommandButton id="reel-close" words="Close the gap" />}
        <CommandButton id="reel-gap" words="Gap before …" />
        {source && <CommandButton id="reel-leave-out" words="Leave out" />}
      </div>
    </div>
  );
}

/** Several items at once. */
function SeveralItems({ chosen }: { chosen: readonly PlacedItem[] }) {
  const project = useProject();
  const frames = chosen.reduce((sum, { startFrame, endFrame }) => sum + endFrame - startFrame, 0);
  return (
    <div className="space-y-3">
      <h2 className="font-bold">{plural(chosen.length, 'item')}</h2>
      <p className="numbers text-soft text-xs">
        {plural(frames, 'frame')} = {secondsText(frames, project.rate)} s together
      </p>
      <div className="flex flex-wrap gap-1">
        <CommandButton id="reel-earlier" words="Earlier" />
        <CommandButton id="reel-later" words="Later" />
        <CommandButton id="reel-again" words="Use again" />
        {chosen.some(({ source }) => source === null) && <CommandButton id="reel-close" words="Close the gaps" />}
        <CommandButton id="reel-leave-out" words="Leave out" />
      </div>
    </div>
  );
}

/** What is chosen on the reel; the item under the current frame where nothing is. */
export function ItemPanel() {
  const project = useProject();
  const selection = useViewStore((state) => state.reelSelection);
  const reelFrame = useViewStore((state) => state.reelFrame);
  const chosen = chosenItems(project, selection, reelFrame);
  const [only] = chosen;
  if (!only)
    return (
      <div className="space-y-2.5 p-3">
        <p className="text-soft">
          Nothing is on the reel yet. Shots stand on it one after another as soon as they are made in Plan; clips, sequences and sounds from
          elsewhere are brought in here.
        </p>
        <div className="flex flex-wrap gap-2">
          <Button kind="go" onClick={() => goToStage(project.id, 'plan')}>
            Make a shot
          </Button>
          <Button onClick={() => commandCalled('bring-in').run()}>Bring in …</Button>
        </div>
      </div>
    );
  return (
    <div className="overflow-y-auto p-3">
      {chosen.length > 1 ? <SeveralItems chosen={chosen} /> : <OneItem key={only.item.id} placed={only} />}
    </div>
  );
}
