/** How deep elements, objects and arrays may be nested: the merge walks down them by calls. */
export const MAX_DEPTH = 400

/** After this many problems a reader stops: what follows is noise. */
export const MAX_PROBLEMS = 20
