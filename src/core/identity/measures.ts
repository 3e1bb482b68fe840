/** So many entries are compared to see whether an identity finds the same ones again. */
export const SAMPLE = 40
/** By so much another partner must be more alike to speak against an identity. */
export const CLEARLY = 0.15
/** Up to this likeness two entries that have a value in common may have it by chance. */
export const BY_CHANCE = 0.3
