import type { CardRoute } from '@jolly/core/board/route';
import { Button, NativeSelect, NumberInput } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../ui/Refused';
import { useWorkbench } from '../../workbench/Workbench';
import { canPickFolder } from './realFolder';
import { type SaidOfCard, useRealCard } from './useRealCard';

const FORMATS: { value: SaidOfCard['format']; label: string }[] = [
  { value: '', label: 'say which' },
  { value: 'FAT32', label: 'FAT32' },
  { value: 'exFAT', label: 'exFAT' },
  { value: 'other', label: 'another' },
];

/** A card in the computer: what it is like is asked, what lies on it is looked at, what is written is read back. */
export function RealCard({ route, hash, name }: { route: CardRoute; hash: string | undefined; name: string }) {
  const { board } = useWorkbench();
  const [said, setSaid] = useState<SaidOfCard>({ format: '', sizeGb: '' });
  const card = useRealCard(route, said);
  const problems = card.folder ? card.problems(name) : [];
  if (!canPickFolder())
    return (
      <ol>
        <li>Save the image for its card, above. Its name matters: {name}.</li>
        <li>
          Look at the card&rsquo;s properties: FAT32, at most {route.max_card_gb} GB. Format it anew if it is
          something else; that empties it.
        </li>
        <li>Copy the file into the root of the card, and take every other image off it.</li>
        <li>Eject the card before you pull it. This browser cannot write a folder; another one may.</li>
      </ol>
    );
  return (
    <>
      <div className="row">
        <NativeSelect
          label="File system of the card"
          data={FORMATS}
          value={said.format}
          onChange={({ currentTarget: { value } }) => setSaid((now) => ({ ...now, format: FORMATS.find((one) => one.value === value)?.value ?? '' }))}
        />
        <NumberInput
          label="Its size, GB"
          min={0.01}
          max={4096}
          value={said.sizeGb}
          onChange={(value) => setSaid((now) => ({ ...now, sizeGb: typeof value === 'number' ? value : '' }))}
        />
        <Button variant="default" loading={card.busy} onClick={() => void card.pick()}>
          Pick the card
        </Button>
      </div>
      <p className="soft">
        The browser sees neither file system nor free room: your computer&rsquo;s properties of the drive tell.
      </p>
      {card.picked === 'none' && <p>No folder was picked.</p>}
      {card.folder && (
        <>
          <p>
            In the root of <b>{card.folder.name || 'the card'}</b>: {card.names.join(', ') || 'nothing'}.
          </p>
          {card.images.filter((other) => other !== name).map((other) => (
            <p key={other} className="row">
              <span>{board.name} wants one image only.</span>
              <Button variant="default" disabled={card.busy} onClick={() => void card.remove(other)}>
                Remove {other} from the card
              </Button>
            </p>
          ))}
          {card.renamed.map((old) => (
            <p key={old} className="row">
              <span>{old} is what the board took.</span>
              <Button variant="default" disabled={card.busy} onClick={() => void card.keep(old)}>
                Keep {old} as a way back
              </Button>
            </p>
          ))}
          {card.written === name ? (
            <p className="proven">
              {name} is on the card and reads back the same. Eject the card; its name counts as used from now on.
            </p>
          ) : (
            problems.map((problem) => (
              <p key={problem} className="refused">
                {problem}
              </p>
            ))
          )}
          <Button
            disabled={!hash || card.busy || problems.length > 0 || card.written === name}
            onClick={() => hash && void card.put(hash, name)}
          >
            Write {name}
          </Button>
        </>
      )}
      <Refused why={card.refused} />
    </>
  );
} // prettier-ignore
