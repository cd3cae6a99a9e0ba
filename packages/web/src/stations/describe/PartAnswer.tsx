import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { NONE, type PartQuestion } from '@jolly/core/describe/question';
import { heats } from '@jolly/core/parts/part';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { partFileUrl } from '../../api/api';
import { PartForm } from './PartForm';
import { Picked } from './Picked';
import type { Field } from './field';
import { SensorReadings } from './SensorReadings';

/** A part out of the catalogue, one's own, or none; one that is nowhere is described here. */
export function PartAnswer({ catalogue, ...field }: Field<PartQuestion> & { catalogue: Catalogue }) {
  const { question, given, onAnswer } = field;
  const [describing, setDescribing] = useState(false);
  const known = catalogue.parts.filter(
    (part) => part.kind === question.of && (part.kind !== 'heater' || heats(part, question.role)),
  );
  return (
    <>
      <Picked
        {...field}
        choices={[
          ...(question.optional ? [{ value: NONE, label: 'there is none' }] : []),
          ...known.map(({ id, name }) => ({ value: id, label: name })),
        ]}
      />
      {question.of === 'thermistor' && (
        <SensorReadings catalogue={catalogue} label={question.label} onTake={(id) => void onAnswer(id)} />
      )}
      {describing ? (
        <PartForm
          kind={question.of}
          catalogue={catalogue}
          onClose={() => setDescribing(false)}
          onMade={async (id) => {
            setDescribing(false);
            await onAnswer(id);
          }}
        />
      ) : (
        <>
          <Button size="compact-sm" variant="subtle" onClick={() => setDescribing(true)}>
            It is another: describe it
          </Button>
          {typeof given === 'string' && given !== NONE && (
            <Button
              size="compact-sm"
              variant="subtle"
              component="a"
              href={partFileUrl(given)}
              download
              aria-label={`Save the part file: ${question.label}`}
            >
              Save its file
            </Button>
          )}
        </>
      )}
    </>
  );
}
