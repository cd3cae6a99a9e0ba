import type { FormField } from '@jolly/core/tree/formField';
import { isNamed, valueAt } from '@jolly/core/tree/path';
import { Button, Checkbox } from '@mantine/core';
import type { Filling } from './filling';
import css from './FormFields.module.css';
import { PlaceField } from './PlaceField';
import { typedOf } from './readField';
import { TypedField } from './TypedField';
import { KeptSelect } from '../KeptSelect';

/** The fields of a thing, by the table that names them. */
export function FormFields({ fields, ...filling }: Filling & { fields: readonly FormField[] }) {
  const thing = valueAt(filling.whole, filling.base);
  const single = fields.filter((field) => field.is !== 'list' && (field.when?.(thing) ?? true));
  const lists = fields.filter((field) => field.is === 'list' && (field.when?.(thing) ?? true));
  return (
    <>
      <div className={css.fields}>
        {single.map((field) => (
          <OneField key={field.path.join('.')} field={field} {...filling} />
        ))}
      </div>
      {lists.map((field) => (
        <ListField key={`${field.path.join('.')} ${field.each?.fields.at(-1)?.path.join('.') ?? ''}`} field={field} {...filling} />
      ))}
    </>
  ); // prettier-ignore
}

function OneField({ field, ...filling }: Filling & { field: FormField }) {
  const path = [...filling.base, ...field.path];
  const value = valueAt(filling.whole, path);
  const set = (next: unknown) => filling.onSet(path, next);
  if (field.is === 'place') return <PlaceField field={field} value={value} onSet={set} onPoint={filling.onPoint} />; // prettier-ignore
  if (field.is === 'flag')
    return (
      <Checkbox
        size="sm"
        label={field.label}
        checked={value === true}
        onChange={(event) => set(event.currentTarget.checked)}
      />
    );
  if (field.choices)
    return (
      <KeptSelect
        size="sm"
        label={field.label}
        {...(field.how && { description: field.how })}
        data={[
          { value: '', label: field.optional ? 'not said' : 'choose …' },
          ...Object.entries(field.choices).map(([choice, label]) => ({ value: choice, label })),
        ]}
        value={typedOf(value)}
        onKeep={(chosen) => set(chosen === '' ? undefined : field.numeric ? Number(chosen) : chosen)}
      />
    );
  return <TypedField field={field} value={value} onSet={set} />;
}

/** Things of one kind, one under the other: each with its fields, one more, and out. */
function ListField({ field, ...filling }: Filling & { field: FormField }) {
  const path = [...filling.base, ...field.path];
  const value = valueAt(filling.whole, path);
  const things: readonly unknown[] = Array.isArray(value) ? value : [];
  const { each } = field;
  if (!each) return null;
  // Things are put and taken one by one: what a field is just keeping of another one stays.
  const add = () => {
    const fresh = each.fresh(things.length, things.at(-1));
    if (Array.isArray(value)) filling.onSet([...path, things.length], fresh);
    else filling.onSet(path, [fresh]);
  };
  return (
    <section className={css.list} aria-label={field.label}>
      {field.label !== filling.heading && <h3>{field.label}</h3>}
      {each.how && <p className="soft">{each.how}</p>}
      {things.map((thing, index) => {
        const name = isNamed(thing) ? thing.id : `${each.one} ${index + 1}`;
        return (
          // Things of a list may have no name yet; their place is what they are known by.
          <fieldset key={index} className={css.thing}>
            <legend>{name}</legend>
            <FormFields {...filling} base={[...path, index]} fields={each.fields} />
            <Button
              size="compact-sm"
              variant="subtle"
              onClick={() => filling.onSet([...path, index], undefined)}
            >
              {`Take out ${name}`}
            </Button>
          </fieldset>
        );
      })}
      <Button size="xs" variant="default" onClick={add}>
        {`One more ${each.one}`}
      </Button>
    </section>
  ); // prettier-ignore
}
