import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps } from '../../app/frame/StationContext';
import { photoUrl } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { WorkList } from '../work/WorkList';
import css from '../work/WorkList.module.css';

/** Every lead of the job: from where, to where, and why the plug as it is will not do. */
export function WiringStation() {
  const { machine } = useWorkbench();
  const job = useJob();
  const all = job.tail?.ripple.consequences.filter((entry) => entry.station === 'wiring') ?? [];
  const leads = all.filter((entry) => entry.kind === 'lead');
  const idle = all.filter((entry) => entry.kind === 'idle');
  const cautions = all.filter((entry) => entry.kind === 'caution');
  useArmsSteps(
    leads.map((lead) => ({
      title: lead.title,
      act: `${lead.from ?? 'New'} → ${lead.to ?? ''}. ${lead.attention?.join('. ') ?? 'The plug fits as it is.'}`,
      done: job.isDone(lead.id),
    })),
  );
  const slips: Slip[] = [
    ...job.putBack.map((back): Slip => ({
      id: back.done.id,
      severity: 'mend',
      what: back.title,
      why: 'It was done for a change that is no longer part of the job.',
      evidence: [],
      actions: [{ label: 'It is put back', run: () => void job.tick(back.done, false) }],
    })),
    ...cautions.map((caution): Slip => ({
      id: caution.id,
      severity: caution.subject.startsWith('volts-') ? 'stop' : 'note',
      what: caution.title,
      why: '',
      evidence: [`because ${caution.because}`],
      actions: [],
    })),
  ];
  return (
    <>
      <main className={css.bench}>
        <h2>{leads.length > 0 ? 'Leads to move' : 'Nothing to wire'}</h2>
        <p className={css.soft}>
          {leads.length > 0
            ? 'With the supply unplugged. Tick a lead when it sits where it belongs; nothing is energised before Bring-up.'
            : job.stored
              ? 'This job leaves every lead where it is.'
              : 'No job is open, so every lead stays where it is.'}
        </p>
        <WorkList
          title="With attention"
          list={leads.filter((lead) => lead.attention)}
          beside={(lead) => <PhotosOf part={lead.subject} machineId={machine.id} />}
        />
        <WorkList
          title="As they are"
          list={leads.filter((lead) => !lead.attention)}
          beside={(lead) => <PhotosOf part={lead.subject} machineId={machine.id} />}
        />
        <WorkList title="Left without work" list={idle} />
      </main>
      <Docket title="While you wire" slips={slips} empty="Nothing to watch for." />
    </>
  );
}

/** Photos on which the header a part was plugged to is pinned. */
function PhotosOf({ part, machineId }: { part: string; machineId: string }) {
  const { photos, before } = useJob();
  const landing = before.harness[part];
  const headers = new Set(
    landing && 'leads' in landing ? Object.values(landing.leads).map((contact) => contact.split('.')[0]) : [],
  );
  const shown = photos.filter((photo) => photo.pins.some((pin) => pin.header && headers.has(pin.header)));
  if (shown.length === 0) return null;
  return (
    <div className={css.photos}>
      {shown.map((photo) => (
        <a key={photo.id} href={photoUrl(machineId, photo.id)} target="_blank" rel="noreferrer">
          <img src={photoUrl(machineId, photo.id)} alt={`${photo.title}: ${[...headers].join(', ')}`} />
        </a>
      ))}
    </div>
  );
}
