/** Why something was not taken; nothing when it was. */
export function Refused({ why }: { why: string | undefined }) {
  if (!why) return null;
  return (
    <p role="alert" className="refused">
      {why}
    </p>
  );
}
