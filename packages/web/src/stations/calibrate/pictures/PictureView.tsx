import type { Picture } from '@jolly/core/bringup/picture';
import type { ReactNode } from 'react';
import { useWorkbench } from '../../../workbench/Workbench';
import { MapPicture } from '../map/MapPicture';
import { MarksPicture } from './MarksPicture';
import { ReadingsPicture } from './ReadingsPicture';
import { ScrewsPicture } from './ScrewsPicture';
import { ShimPicture } from './ShimPicture';
import { FilamentPicture, MountPicture, StripsPicture } from './SmallPictures';
import { WarmingPicture } from './WarmingPicture';

/** What is drawn of something while it is measured, and of its outcome. */
export function PictureView({ picture }: { picture: Picture }): ReactNode {
  const { bed_mm: bed } = useWorkbench().machine.frame;
  switch (picture.kind) {
    case 'readings':
      return <ReadingsPicture {...picture} />;
    case 'shim':
      return <ShimPicture {...picture} />;
    case 'marks':
      return <MarksPicture {...picture} />;
    case 'mount':
      return <MountPicture {...picture} />;
    case 'screws':
      return <ScrewsPicture {...picture} bed={bed} />;
    case 'warming':
      return <WarmingPicture {...picture} />;
    case 'filament':
      return <FilamentPicture {...picture} />;
    case 'strips':
      return <StripsPicture {...picture} />;
    case 'map':
      return <MapPicture map={picture.map} />;
  }
}
