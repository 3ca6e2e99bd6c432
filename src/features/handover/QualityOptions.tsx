import { NumberField } from '@/features/handover/NumberField';
import { Row } from '@/features/handover/Row';
import { Choice } from '@/ui/Choice';

/** How well pixels are kept that needn't be: `quality` from 1 to 100, null where all are kept, which `canKeepAll` lets be chosen. */
export function QualityOptions({
  quality,
  canKeepAll,
  onChange,
}: {
  quality: number | null;
  canKeepAll: boolean;
  onChange: (quality: number | null) => void;
}) {
  return (
    <>
      {canKeepAll && (
        <Row name="Pixels">
          <Choice
            label="Pixels"
            value={quality === null ? 'kept' : 'coded'}
            options={[
              { value: 'kept', label: 'All kept' },
              { value: 'coded', label: 'By quality' },
            ]}
            onChange={(value) => onChange(value === 'kept' ? null : 90)}
          />
        </Row>
      )}
      {quality !== null && <NumberField label="Quality, 1 to 100" value={quality} least={1} most={100} onChange={onChange} />}
    </>
  );
}
