import { Modal, TextInput } from '@mantine/core';
import { IconSearch } from '@tabler/icons-react';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import css from './Palette.module.css';

export interface Findable {
  id: string;
  kind: 'Station' | 'Survey' | 'Setting' | 'Part' | 'Pin' | 'Action' | 'Machine';
  title: string;
  hint: string;
  to: string | (() => void);
}

const SHOWN = 12;

/** Lower is better; undefined when a word of the question is in neither title nor hint. */
function rank(item: Findable, words: string[]): number | undefined {
  const title = item.title.toLowerCase();
  const hint = item.hint.toLowerCase();
  let score = 0;
  for (const word of words) {
    const inTitle = title.indexOf(word);
    if (inTitle >= 0) score += inTitle === 0 ? 0 : 1;
    else if (hint.includes(word)) score += 3;
    else return undefined;
  }
  return score;
}

/** Find anything: stations, settings, parts, pins, actions. */
export function Palette({ items, open, onClose }: { items: Findable[]; open: boolean; onClose: () => void }) {
  const [wanted, setWanted] = useState('');
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const list = useRef<HTMLUListElement>(null);
  const found = useMemo(() => {
    const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
    return items
      .map((item) => ({ item, score: rank(item, words) }))
      .filter((entry): entry is { item: Findable; score: number } => entry.score !== undefined)
      .sort((a, b) => a.score - b.score)
      .slice(0, SHOWN)
      .map((entry) => entry.item);
  }, [items, wanted]);

  useEffect(() => setAt(0), [wanted, open]);
  useEffect(() => {
    if (open) setWanted('');
  }, [open]);

  const take = (item: Findable | undefined) => {
    if (!item) return;
    onClose();
    if (typeof item.to === 'string') void navigate(item.to);
    else item.to();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt((now) => Math.min(found.length - 1, now + 1));
    else if (event.key === 'ArrowUp') setAt((now) => Math.max(0, now - 1));
    else if (event.key === 'Enter') take(found[at]);
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
        aria-activedescendant={found[at] ? `found-${found[at].id}` : undefined}
        aria-label="Find anything"
        placeholder="A setting, a part, a pin, a station, something to do"
        leftSection={<IconSearch size={18} />}
        value={wanted}
        onChange={(event) => setWanted(event.currentTarget.value)}
        onKeyDown={onKeyDown}
      />
      <ul className={css.found} id="found" role="listbox" aria-label="Found" ref={list}>
        {found.map((item, index) => (
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
            <em>{item.kind}</em>
          </li>
        ))}
      </ul>
      {found.length === 0 && (
        <p className={css.none}>Nothing is called that. Try a part, such as “bed”, or a unit.</p>
      )}
    </Modal>
  );
}
