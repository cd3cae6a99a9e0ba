import { Button, Checkbox } from '@mantine/core';
import type { CalibrationRecord } from '@jolly/contract/endpoints/calibrations';
import type { CalibrationTool } from '@jolly/core/calibration/calibrationTool';
import { voidBecause } from '@jolly/core/machine/ground';
import { isPattern, type PatternTool } from '@jolly/core/calibration/patternTools';
import { unreadyFor } from '@jolly/core/proofs/proofs';
import { useState } from 'react';
import { Link } from 'react-router';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { isStopped } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { download } from '../../ui/download';
import { useWorkbench } from '../../workbench/Workbench';
import { PowerRow } from '../bringup/PowerRow';
import { ArmsMeasuring } from './ArmsMeasuring';
import css from './Calibrate.module.css';
import { FigureCurves } from './FigureCurves';
import { EnoughPoints } from './map/EnoughPoints';
import { MapsKept } from './map/MapsKept';
import { useMeasuring } from '../../bench/MeasuringProvider';
import { Outcome } from './Outcome';
import { PictureView } from './pictures/PictureView';
import { StartForm } from './StartForm';
import { StillHeated } from './StillHeated';
import { ToolPrompt } from './ToolPrompt';
import { useChosen } from './useChosen';

/** One tool: what for and when, what to have at hand, how it goes, what came of it, and what it came to before. */
export function ToolView({ tool, record }: { tool: CalibrationTool; record: CalibrationRecord | undefined }) {
  const { facts, machine, settings } = useWorkbench();
  const { openArms, arms } = useStation();
  const measuring = useMeasuring();
  const { running, picture, found } = measuring;
  const unproven = useUnproven(tool);
  const [read, setRead] = useState(false);
  const before = useChosen(tool, machine.id);
  const unread = unproven.length > 0 && !read ? unproven : undefined;
  const why = useWhyNot(tool) ?? before.problem;
  const mine = running === tool.id;
  const { found: outcome, grounds } = found?.tool === tool.id ? found : {};
  const other = outcome && voidBecause(grounds, facts, 'measured');
  useArmsSteps([{ title: tool.title, act: tool.toHand.join('. '), ...(tool.caution && { caution: tool.caution }), done: outcome?.outcome === 'found' }]); // prettier-ignore
  const past = (record?.calibrations ?? []).filter(({ calibration }) => calibration === tool.id);
  const mapNow = outcome?.map ?? (tool.id === 'map' ? machine.bed_map : undefined);
  return (
    <div className={css.tool}>
      <p>
        <Link to={`/machines/${machine.id}/calibrate`}>All that can be measured</Link>
      </p>
      <h2>{tool.title}</h2>
      <p>{tool.what}</p>
      {!mine && !outcome && (
        <section aria-label="To have at hand">
          <b>At hand</b>
          <ul className={css.hand}>
            {tool.toHand.map((thing) => (
              <li key={thing}>{thing}</li>
            ))}
          </ul>
        </section>
      )}
      {tool.caution && !outcome && (
        <p className={css.caution}>
          <b>Caution:</b> {tool.caution}
        </p>
      )}
      {needsLink(tool) && <PowerRow />}
      {needsLink(tool) && running === undefined && <StillHeated />}
      {/* A board that does not know its lines would refuse it in the middle of a print. */}
      {isPattern(tool) && tool.missing === undefined && <PatternFile tool={tool} />}
      {!mine && !outcome && unproven.length > 0 && (
        <Unproven titles={unproven} read={read} setRead={setRead} />
      )}
      {!mine && !outcome && (
        <StartForm
          before={before}
          why={why ?? (unread && 'Read first what is not proven.')}
          begin={() => void measuring.begin(tool, before.chosen)}
        />
      )}
      {/* At arm's length it stands there alone. */}
      {mine && !arms && <ToolPrompt />}
      {outcome && !arms && <Outcome tool={tool} found={outcome} other={other} />}
      {(mine || outcome) && picture && <PictureView picture={picture} />}
      <ArmsMeasuring
        tool={tool}
        why={why}
        before={before}
        unread={unread}
        markRead={() => setRead(true)}
        outcome={outcome && <Outcome tool={tool} found={outcome} other={other} />}
      />
      {!mine && (
        <div className="row">
          <Button size="xs" variant="subtle" onClick={openArms}>
            {"At arm's length"}
          </Button>
        </div>
      )}
      {tool.id === 'map' && mapNow && <EnoughPoints map={mapNow} settings={settings} />}
      {tool.id === 'map' && <MapsKept maps={past} now={machine.bed_map} />}
      {past.length > 0 && <FigureCurves past={past} />}
    </div>
  );
}

/** The pattern as a file, for your slicer's card or the bench's. */
function PatternFile({ tool: { id, pattern } }: { tool: PatternTool }) {
  const { putPrints } = useBench();
  const prints = usePowered((now) => now.prints);
  const name = `${id.toUpperCase()}.GCO`;
  const isIn = prints?.includes(name) === true;
  return (
    <div className="row">
      <Button variant="default" onClick={() => download(pattern.name, 'text/plain', pattern.gcode())}>
        {`Save ${pattern.name}`}
      </Button>
      <Button
        variant="default"
        disabled={isIn}
        onClick={() => putPrints([{ name, bytes: new TextEncoder().encode(pattern.gcode()) }])}
      >
        {isIn ? `${name} is in the bench’s card slot` : 'Put it into the bench’s card slot'}
      </Button>
      <p className="soft">
        {`${pattern.bands.length} bands, counted from the front: ${pattern.bands[0]?.label} to ${pattern.bands.at(-1)?.label}. Print it, then begin.`}
        {isIn && ' The bench moves through it; how a band looks, only a real print shows.'}
      </p>
    </div>
  );
}

/** A tool that only asks needs no machine that runs. */
const needsLink = (tool: CalibrationTool): boolean =>
  !isPattern(tool) && !['centre', 'cube', 'probe-mount'].includes(tool.id);

/** Why a tool cannot begin here and now; undefined when it can. */
function useWhyNot(tool: CalibrationTool): string | undefined {
  const power = usePowered((now) => now.power);
  const stopped = usePowered(isStopped);
  const { running } = useMeasuring();
  if (running !== undefined && running !== tool.id)
    return 'Something else is being measured. End that first.';
  if (tool.missing !== undefined) return `${tool.missing} Switch it on at Settings, build and flash.`;
  if (!needsLink(tool)) return undefined;
  if (power.state !== 'on') return 'Switch the power on first.';
  if (power.silent !== undefined) return 'The board is silent; nothing can be measured.';
  if (stopped) return 'The machine has stopped. Read why at Bring-up, and wake it.';
  return undefined;
}

/** Steps of bring-up that a tool trusts and nobody has proven for this image. */
function useUnproven(tool: CalibrationTool): string[] {
  const { proofs } = useStation();
  if (!needsLink(tool)) return [];
  const open = unreadyFor(tool, { steps: proofs?.steps ?? [], proofs: proofs?.proofs ?? [] });
  return open.map(({ title }) => title);
}

/** What is not proven is said, and left to the person. */
function Unproven({
  titles,
  read,
  setRead,
}: {
  titles: readonly string[];
  read: boolean;
  setRead: (read: boolean) => void;
}) {
  const { machine } = useWorkbench();
  return (
    <div className={css.caution}>
      <p>
        <b>Not proven for this image:</b> {titles.join('; ')}. What is not proven can hurt, or measure
        nonsense: <Link to={`/machines/${machine.id}/bring-up`}>prove it first</Link>.
      </p>
      <Checkbox
        size="xs"
        checked={read}
        onChange={(event) => setRead(event.currentTarget.checked)}
        label="I have read it, and go on at my own risk"
      />
    </div>
  );
}
