/**
 * What things are called that stand in another's place without their names: the name from which can be read what is
 * played.
 */
const said = new WeakMap<object, string>();

/** Lets something that goes by another name still say what this one says. */
export const saysAs = <T extends object>(entry: T, name: string): T => {
  said.set(entry, name);
  return entry;
};

/** The name of something, to read from it what is played, and not to be shown. */
export const saidName = (of: { readonly name: string }): string => said.get(of) ?? of.name;
