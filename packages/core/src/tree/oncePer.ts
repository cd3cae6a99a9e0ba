/**
 * `compute`, called once for each object and remembered for as long as that object lives. For what many rules ask of
 * values that never change, as facts, boards and catalogues do.
 */
export function oncePer<Of extends object, Value>(compute: (of: Of) => Value): (of: Of) => Value {
  const known = new WeakMap<Of, { value: Value }>();
  return (of) => {
    const there = known.get(of);
    if (there) return there.value;
    const value = compute(of);
    known.set(of, { value });
    return value;
  };
}
