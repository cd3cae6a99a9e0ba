import type { FormField } from '@jolly/core/tree/formField';
import { isRecord } from '@jolly/core/tree/path';
import { Button } from '@mantine/core';
import css from './FormFields.module.css';
import type { Filling } from './filling';
import { TypedField } from './TypedField';

/** A point on the board: typed from its front left corner, or pointed at on the drawing. */
export function PlaceField({
  field,
  value,
  onSet,
  onPoint,
}: {
  field: FormField;
  value: unknown;
  onSet: (value: unknown) => void;
  onPoint: Filling['onPoint'];
}) {
  const at = isRecord(value) ? value : {};
  const set = (side: 'x' | 'y') => (next: unknown) =>
    onSet(next === undefined && Object.keys(at).length <= 1 ? undefined : { ...at, [side]: next });
  const side = (name: 'x' | 'y', words: string): FormField => ({ path: [name], is: 'number', unit: 'mm', label: `${field.label}, ${words}` }); // prettier-ignore
  return (
    <div className={css.place}>
      <TypedField field={side('x', 'from left')} value={at['x']} onSet={set('x')} />
      <TypedField field={side('y', 'from front')} value={at['y']} onSet={set('y')} />
      {onPoint && (
        <Button
          size="compact-sm"
          variant="default"
          aria-label={`Point at it: ${field.label}`}
          onClick={() => onPoint(field.label, onSet)}
        >
          <svg viewBox="0 0 16 16" width="15" height="15" aria-hidden="true">
            <path d="M8 1v5M8 10v5M1 8h5M10 8h5" stroke="currentColor" strokeWidth="1.6" />
            <circle cx="8" cy="8" r="4.4" fill="none" stroke="currentColor" strokeWidth="1.6" />
          </svg>
        </Button>
      )}
    </div>
  );
}
