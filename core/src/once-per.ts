/**
 * A function whose answers are kept with what they were worked out of, and go when it goes. It may
 * only look at what never changes: `from`, or of it what `keyOf` names. Several `from` with the same
 * key share the answer of the first.
 */
export function oncePer<From extends object, Value extends object | string>(
  make: (from: From) => Value,
  keyOf: (from: From) => object = (from) => from,
): (from: From) => Value {
  const known = new WeakMap<object, Value>();
  return (from) => {
    const key = keyOf(from);
    let value = known.get(key);
    if (value === undefined) known.set(key, (value = make(from)));
    return value;
  };
}
