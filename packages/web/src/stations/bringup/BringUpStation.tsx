import { BRING_UP_VIEWS } from '@jolly/session/bringUpViews';
import { useSearchParams } from 'react-router';
import { NotTakenOver } from '../../job/NotTakenOver';
import { SectionList } from '../../ui/SectionList';
import { FirstPowerView } from './FirstPowerView';
import { ProofSheetView } from './ProofSheetView';
import { ProveView } from './ProveView';

/** First power in stages, the machine on the bench with the tests that prove it, and what is proven on one sheet. */
export function BringUpStation() {
  const [shown] = useSearchParams();
  const view = BRING_UP_VIEWS.find(({ id }) => id === shown.get('view'))?.id ?? 'prove';
  const choose = (
    <>
      <SectionList
        label="Views of Bring-up"
        entries={BRING_UP_VIEWS}
        at={view}
        leads={(id) => (id === 'prove' ? {} : { view: id })}
        lying
      />
      <NotTakenOver>What is powered here is the board of the machine file.</NotTakenOver>
    </>
  );
  const views = { power: FirstPowerView, prove: ProveView, sheet: ProofSheetView };
  const View = views[view];
  return <View choose={choose} />;
}
