const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** A stored time as `22 Nov 2026`. */
export const dayOf = (iso: string) => DAY.format(new Date(iso));
/** A stored time as `14:05`. */
export const timeOf = (iso: string) => TIME.format(new Date(iso));
/** Both. */
export const whenOf = (iso: string) => `${dayOf(iso)}, ${timeOf(iso)}`;
