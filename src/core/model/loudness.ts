/** What can be said of how loud a source is: dB SPL a metre away, or dBu of what comes by cable. */
export const LOUDNESS_DB = { min: -80, max: 160 } as const;
export const DISTANCE_M = { min: 0.01, max: 100 } as const;
export const CREST_DB = { min: 3, max: 40 } as const;
