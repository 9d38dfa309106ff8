/**
 * The wanted name, or with the lowest number from 2 that makes it one that is not taken, whatever case it is written
 * in.
 */
export const freeName = (wanted: string, names: readonly string[]): string => {
  const taken = new Set(names.map((name) => name.toLowerCase()));
  let name = wanted;
  for (let number = 2; taken.has(name.toLowerCase()); number++) name = `${wanted} ${number}`;
  return name;
};
