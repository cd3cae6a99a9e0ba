import { ownSwitch } from '../../ui/ownSwitch';

/** Whether single keys do something: whoever speaks to the window, or whose hand shakes, switches them off. */
export const singleKeys = ownSwitch('keys:single', true);
