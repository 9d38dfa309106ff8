/** So many runs of a property: the seeded slice that every run of the tests makes, or, where the long run is asked for, all of them. */
export const runs = (slice: number, all: number): number =>
  (globalThis as { readonly process?: { readonly env: Readonly<Record<string, string | undefined>> } }).process?.env.WANDEL_LONG ? all : slice;
