/** What files there are: `jolly: machine/1`, `board/1`, … Apart from their schemas, which a window does not need. */
export const FILE_FAMILIES = [
  'machine',
  'job',
  'board',
  'chip',
  'part',
  'programmer',
  'kit',
  'dialect',
] as const;
export type FileFamily = (typeof FILE_FAMILIES)[number];
