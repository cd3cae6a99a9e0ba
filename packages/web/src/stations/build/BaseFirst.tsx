import { Refusal } from '@jolly/contract/refusal';
import { whyOf } from '@jolly/core/text/whyOf';
import { Button } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';

/** Builds the nearest base configuration unchanged: when that fails, the trouble is in the set-up and not in your edits. */
export function BaseFirst() {
  const { machine, kit } = useWorkbench();
  const base = useMutation({ mutationFn: () => api.buildBase({ id: machine.id }) });
  return (
    <div className="row" role="group" aria-label="Base first">
      <Button size="xs" variant="default" loading={base.isPending} onClick={() => base.mutate()}>
        Build the base unchanged
      </Button>
      <span className="soft" aria-live="polite">
        {base.isPending
          ? 'Building the base configuration for this kind of frame.'
          : base.error
            ? failedInWords(base.error)
            : base.data
              ? `${base.data.name}, for ${kit.name} ${kit.version} on ${base.data.board}, builds: ${base.data.sizes.flashBytes.toLocaleString('en')} bytes. Compiler and sources are sound; what fails comes of this machine’s settings.`
              : `A base of ${kit.name} ${kit.version} that is known to build tells trouble of the set-up from trouble of an edit.`}
      </span>
    </div>
  );
}

/** Only what the compiler refused tells of the set-up; a base that was not built tells nothing. */
const failedInWords = (error: Error): string =>
  error instanceof Refusal && error.code === 'not-built'
    ? `The base does not build: ${whyOf(error)}. The trouble is in the set-up, not in your edits.`
    : `The base was not built: ${whyOf(error)}. Where the trouble is, is not known by that.`;
