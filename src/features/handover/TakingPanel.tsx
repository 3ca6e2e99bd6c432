'use client';
import { sizeText } from '@/core/document/size';
import { LEAST_WIDTH_PX, MOST_WIDTH_PX, type TakenSize, type Taking, takenSize } from '@/core/output/taking';
import { parseRate, rateName } from '@/core/time/rate';
import { NumberField } from '@/features/handover/NumberField';
import { Row } from '@/features/handover/Row';
import { useProject } from '@/features/project/hooks';
import { Choice } from '@/ui/Choice';
import { CommitField } from '@/ui/Field';

type Props = { readonly taking: Taking; readonly onChange: (taking: Taking) => void };

function SizeRow({ taking, onChange }: Props) {
  const { size } = useProject();
  const start = (kind: TakenSize['kind']): TakenSize =>
    kind === 'width' ? { kind, widthPx: takenSize(size, { kind: 'half' }).width } : { kind };
  return (
    <>
      <Row name="Size">
        <Choice<TakenSize['kind']>
          label="Size"
          value={taking.size.kind}
          options={[
            { value: 'full', label: 'Full' },
            { value: 'half', label: 'Half, a draft' },
            { value: 'width', label: 'Other' },
          ]}
          onChange={(kind) => onChange({ ...taking, size: start(kind) })}
        />
      </Row>
      {taking.size.kind === 'width' && (
        <NumberField
          label={`Width in pixels: ${sizeText(takenSize(size, taking.size))}`}
          value={taking.size.widthPx}
          least={LEAST_WIDTH_PX}
          most={MOST_WIDTH_PX}
          onChange={(widthPx) => onChange({ ...taking, size: { kind: 'width', widthPx } })}
        />
      )}
    </>
  );
}

function RateRow({ taking, onChange }: Props) {
  const { rate: filmRate } = useProject();
  const { rate } = taking;
  return (
    <>
      <Row name="Rate">
        <Choice
          label="Rate"
          value={rate?.way ?? 'film'}
          options={[
            { value: 'film', label: rateName(filmRate) },
            { value: 'readAs', label: 'Read as', title: 'The same frames, so many a second: it lasts another time' },
            { value: 'converted', label: 'On exposures', title: 'Exposures are brought to the rate: it lasts as long as the film' },
          ]}
          onChange={(way) => onChange({ ...taking, rate: way === 'film' ? null : { way, rate: rate?.rate ?? filmRate } })}
        />
      </Row>
      {rate && (
        <CommitField
          label="Frames a second"
          value={rateName(rate.rate)}
          onCommit={(text) => {
            const read = parseRate(text);
            if (read.ok) onChange({ ...taking, rate: { ...rate, rate: read.value } });
          }}
        />
      )}
      {rate?.way === 'readAs' && (
        <p className="text-soft text-xs">
          Its frames last another time than they were made for: no sound fits them, and none is handed over.
        </p>
      )}
    </>
  );
}

/** How much of what leaves is taken: its size, which frames, at which rate. */
export function TakingPanel(props: Props) {
  const { taking, onChange } = props;
  return (
    <div className="space-y-2">
      <SizeRow {...props} />
      <Row name="Frames">
        <Choice
          label="Frames"
          value={taking.everySecond ? 'second' : 'all'}
          options={[
            { value: 'all', label: 'Every one' },
            { value: 'second', label: 'Every second, a draft' },
          ]}
          onChange={(value) => onChange({ ...taking, everySecond: value === 'second' })}
        />
      </Row>
      <RateRow {...props} />
    </div>
  );
}
