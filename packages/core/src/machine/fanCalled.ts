const CALLED: Readonly<Record<string, string>> = { hotend: 'hot-end fan' };

/** What a fan is called by what it serves, where it stands within a sentence. */
export const fanCalled = (role: string): string => CALLED[role] ?? `${role} fan`;
