import type { Chip } from '@jolly/core/board/chip';
import { CHIP_FORM } from '@jolly/core/board/boardForm';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { writeChipFile } from '@jolly/core/formats/chipFile';
import { freeId } from '@jolly/core/machine/freeId';
import { put } from '@jolly/core/tree/put';
import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, chipFileUrl } from '../../api/api';
import { FormFields } from '../../ui/form/FormFields';
import { OpenTextFile } from '../../ui/OpenTextFile';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Boards.module.css';
import type { Drawing } from './useBegunBoard';
import { KeptSelect } from '../../ui/KeptSelect';
import { askAnew } from '../../api/held';

/** Which chip a board carries: one of the catalogue, one's own, or one that is described here. */
export function ChipChoice({ drawing, catalogue }: { drawing: Drawing; catalogue: Catalogue }) {
  const { board } = drawing.begun;
  const [describing, setDescribing] = useState<Chip>();
  const chip = catalogue.chips.find(({ id }) => id === board.chip);
  const take = (id: string) => {
    drawing.set(['chip'], id);
    setDescribing(undefined);
  };
  return (
    <>
      <KeptSelect
        size="sm"
        label="Chip"
        description="The biggest one; what is printed on it tells, not what the product was sold as."
        data={[{ value: '', label: 'choose …' }, ...catalogue.chips.map(({ id, name, marking }) => ({ value: id, label: `${name}, marked ${marking}` }))]}
        value={board.chip ?? ''}
        onKeep={(chosen) => drawing.set(['chip'], chosen || undefined)}
      />
      <div className="row">
        {chip && <a href={chipFileUrl(chip.id)}>Save {chip.name} as a chip file</a>}
        <Button size="compact-sm" variant="subtle" disabled={!catalogue.chips[0]} onClick={() => setDescribing(chip ?? catalogue.chips[0])}>
          It carries another: describe it
        </Button>
      </div>
      {describing && <ChipForm like={describing} catalogue={catalogue} onAdded={take} onClose={() => setDescribing(undefined)} />}
    </>
  ); // prettier-ignore
}

/** A chip that is in no catalogue, begun from one like it, with a name of its own. */
function ChipForm({
  like,
  catalogue,
  onAdded,
  onClose,
}: {
  like: Chip;
  catalogue: Catalogue;
  onAdded: (id: string) => void;
  onClose: () => void;
}) {
  const [chip, setChip] = useState<unknown>(() => ({ ...like, name: undefined, marking: undefined }));
  const client = useQueryClient();
  const { busy, refused, act } = useAct();
  const add = (file: string) =>
    act(async () => {
      const added = await api.addChip({ file });
      await askAnew(client, 'catalogue');
      onAdded(added.id);
    });
  const make = () => {
    // Begun from a chip, changed by the form of a chip; the server reads it with the chip's schema.
    const made = chip as Chip;
    const taken = new Set(catalogue.chips.map(({ id }) => id));
    void add(writeChipFile({ ...made, id: freeId(made.name ?? '', taken, 'chip') }));
  };
  return (
    <fieldset className={css.more}>
      <legend>A chip like {like.name}</legend>
      <p className="soft">What you do not change stays as it is on {like.name}: compare each line with its data.</p>
      <FormFields whole={chip} base={[]} fields={CHIP_FORM} onSet={(path, value) => setChip((now: unknown) => put(now, path, value))} />
      <Refused why={refused} />
      <div className="row">
        <Button size="xs" disabled={busy} onClick={make}>
          Add this chip
        </Button>
        <OpenTextFile words="Open a chip file" label="Chip file" onText={(text) => void add(text)} />
        <Button size="xs" variant="subtle" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </fieldset>
  ); // prettier-ignore
}
