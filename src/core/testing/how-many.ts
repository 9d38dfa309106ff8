/** A setting of the run; none in a browser. */
export const settingOf = (name: string): string | undefined =>
  (globalThis as { readonly process?: { readonly env: Readonly<Record<string, string | undefined>> } }).process?.env[
    name
  ];

/**
 * So many runs of a property: the seeded slice that every run of the tests makes, or, where the long run is asked for,
 * all of them.
 */
export const runs = (slice: number, all: number): number => (settingOf("WANDEL_LONG") ? all : slice);
