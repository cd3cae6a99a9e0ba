const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** A stored time as `22 Nov 2026`. */
export const dayOf = (iso: string) => DAY.format(new Date(iso));
/** A stored time as `14:05`. */
export const timeOf = (iso: string) => TIME.format(new Date(iso));
/** Both. */
export const whenOf = (iso: string) => `${dayOf(iso)}, ${timeOf(iso)}`;

/** How many days of the calendar ago a stored time is, as one says it. */
export function daysAgo(iso: string, now = new Date()): string {
  const noon = (at: Date) => Date.UTC(at.getFullYear(), at.getMonth(), at.getDate(), 12);
  const days = (noon(now) - noon(new Date(iso))) / 86_400_000;
  // A clock that was set back makes it lie ahead.
  return days <= 0 ? 'today' : days === 1 ? 'yesterday' : `${days} days ago`;
}
