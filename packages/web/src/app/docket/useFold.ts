import { useRef, useState } from 'react';

/**
 * Whether the docket is folded. Nothing in it folds it; a person may fold or open it, too. What was not there when it was
 * folded opens it again. While it is not known whether more comes it stays as it is.
 */
export function useFold(
  ids: readonly string[],
  { more, checking }: { more: boolean; checking: boolean },
): { folded: boolean; fold: (folded: boolean) => void } {
  const [byHand, setByHand] = useState<{ folded: boolean; with: ReadonlySet<string> }>();
  const was = useRef(false);
  const holds = more || ids.length > 0;
  const fresh = more || ids.some((id) => !byHand?.with.has(id));
  let folded = !holds;
  if (byHand) folded = byHand.folded ? !fresh || !holds : false;
  if (checking && !byHand && !holds) folded = was.current;
  was.current = folded;
  return { folded, fold: (next) => setByHand({ folded: next, with: new Set(ids) }) };
}
