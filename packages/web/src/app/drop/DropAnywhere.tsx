import { FILE_PLACES } from '@jolly/session/droppedFile';
import { Button } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { Outlet, useMatch, useNavigate } from 'react-router';
import css from './DropAnywhere.module.css';
import { kindOf, lay as layFile } from './dropped';

const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;

/** Files can be let go anywhere in the window: each goes where it belongs, or it is said why it cannot. */
export function DropAnywhere() {
  const [over, setOver] = useState(false);
  const [said, setSaid] = useState<string>();
  const navigate = useNavigate();
  const machine = useMatch('/machines/:id/*')?.params.id;
  const lay = async (files: readonly File[]) => {
    setSaid(undefined);
    for (const file of files) {
      const kind = await kindOf(file);
      const to = kind && FILE_PLACES[kind].at(machine);
      if (!kind)
        setSaid(`${file.name}: neither one of this product’s files, nor an image, a photo, a map, G-code or a text. Nothing was done with it.`); // prettier-ignore
      else if (to === undefined)
        setSaid(`${file.name}: open the machine it belongs to, and let it go there. Nothing was done with it.`); // prettier-ignore
      else {
        const taken = layFile({ kind, file });
        await navigate(to);
        setSaid(
          (await taken)
            ? `${file.name}. ${FILE_PLACES[kind].says}`
            : `${file.name}: there is no place for it at this machine. Nothing was done with it.`,
        );
      }
    }
  };
  const now = useRef(lay);
  now.current = lay;
  useEffect(() => {
    const drag = (event: DragEvent) => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      setOver(event.type === 'dragover');
    };
    const leave = (event: DragEvent) => event.relatedTarget === null && setOver(false);
    const drop = (event: DragEvent) => {
      setOver(false);
      // A place of its own took it.
      if (!holdsFiles(event) || event.defaultPrevented) return;
      event.preventDefault();
      void now.current([...(event.dataTransfer?.files ?? [])]);
    };
    window.addEventListener('dragover', drag);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', drag);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
    };
  }, []);
  return (
    <>
      <Outlet />
      {over && <p className={css.over}>Let it go: it finds its place.</p>}
      {said !== undefined && (
        <div className={css.said} role="status">
          <p>{said}</p>
          <Button size="compact-sm" variant="subtle" onClick={() => setSaid(undefined)}>
            Close
          </Button>
        </div>
      )}
    </>
  );
}
