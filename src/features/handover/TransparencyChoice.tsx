import { Row } from '@/features/handover/Row';
import { Choice } from '@/ui/Choice';

/** Whether what isn't covered stays transparent, or leaves on white. */
export function TransparencyChoice({ isKept, onChange }: { isKept: boolean; onChange: (isKept: boolean) => void }) {
  return (
    <Row name="Ground">
      <Choice
        label="Transparency"
        value={isKept ? 'kept' : 'white'}
        options={[
          { value: 'kept', label: 'Transparent' },
          { value: 'white', label: 'On white' },
        ]}
        onChange={(value) => onChange(value === 'kept')}
      />
    </Row>
  );
}
