import { Modal, TextInput } from '@mantine/core';
import { type Entry, find, indexOf } from '@jolly/core/find/find';
import { IconSearch } from '@tabler/icons-react';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import css from './Palette.module.css';

export interface Findable {
  id: string;
  kind:
    | 'Station'
    | 'Survey'
    | 'View'
    | 'Fact'
    | 'Setting'
    | 'Command'
    | 'Tool'
    | 'Part'
    | 'Pin'
    | 'Action'
    | 'Machine';
  title: string;
  hint: string;
  /** Other words it is found by: what it is called elsewhere, and what goes wrong when it is wrong. */
  words?: Pick<Entry, 'hint' | 'also' | 'symptoms' | 'place'>;
  to: string | (() => void);
  /** What gets the focus there, by its `data-find`; without it, the place's heading. */
  find?: string;
}

const SHOWN = 12;

/** Find anything: stations, settings, parts, pins, actions. */
export function Palette({ items, open, onClose }: { items: Findable[]; open: boolean; onClose: () => void }) {
  const [wanted, setWanted] = useState('');
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const list = useRef<HTMLUListElement>(null);
  const index = useMemo(
    () => indexOf(items.map(({ id, title, hint, words }) => ({ id, title, hint, ...words }))),
    [items],
  );
  const found = useMemo(() => {
    const byId = new Map(items.map((item) => [item.id, item]));
    return find(index, wanted, SHOWN).flatMap(({ id, by }) => {
      const item = byId.get(id);
      return item ? [{ item, by }] : [];
    });
  }, [index, items, wanted]);

  useEffect(() => setAt(0), [wanted, open]);
  useEffect(() => {
    if (open) setWanted('');
  }, [open]);

  const take = (item: Findable | undefined) => {
    if (!item) return;
    onClose();
    if (typeof item.to === 'string') void navigate(item.to, { state: { find: item.find } });
    else item.to();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt((now) => Math.min(found.length - 1, now + 1));
    else if (event.key === 'ArrowUp') setAt((now) => Math.max(0, now - 1));
    else if (event.key === 'Enter') take(found[at]?.item);
    else return;
    event.preventDefault();
  };

  return (
    <Modal
      opened={open}
      onClose={onClose}
      title="Find anything"
      size="lg"
      yOffset="12vh"
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <TextInput
        data-autofocus
        role="combobox"
        aria-expanded="true"
        aria-controls="found"
        aria-activedescendant={found[at] ? `found-${found[at].item.id}` : undefined}
        aria-label="Find anything"
        placeholder="A setting, a unit, a part, a pin, or what goes wrong"
        leftSection={<IconSearch size={18} />}
        value={wanted}
        onChange={(event) => setWanted(event.currentTarget.value)}
        onKeyDown={onKeyDown}
      />
      <ul className={css.found} id="found" role="listbox" aria-label="Found" ref={list}>
        {found.map(({ item, by }, index) => (
          <li
            key={item.id}
            id={`found-${item.id}`}
            role="option"
            aria-selected={index === at}
            onClick={() => take(item)}
            onMouseEnter={() => setAt(index)}
          >
            <span>{item.title}</span>
            <small>{item.hint}</small>
            <em>{by === 'symptom' ? 'look here' : item.kind}</em>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className={css.none}>
          Nothing is called that. Try a part, such as “bed”, a unit, or what goes wrong, such as “runs
          backwards”.
        </p>
      )}
    </Modal>
  );
}
