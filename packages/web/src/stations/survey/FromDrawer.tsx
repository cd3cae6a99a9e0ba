import { Button } from '@mantine/core';
import { api } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';

/** Files that lie in the demo's drawer; each is taken as if it had been opened. */
export function FromDrawer({
  ending,
  onFile,
}: {
  ending: RegExp;
  onFile: (name: string, bytes: Blob) => void;
}) {
  const { machine } = useWorkbench();
  const { wayBack } = useJob();
  return (wayBack?.drawer ?? [])
    .filter((name) => ending.test(name))
    .map((name) => (
      <Button
        key={name}
        size="xs"
        variant="default"
        onClick={() =>
          void api
            .drawer({ id: machine.id, name })
            .then((reply) => reply.blob())
            .then((bytes) => onFile(name, bytes))
        }
      >
        From the drawer: {name}
      </Button>
    ));
}
