/**
 * A thing that the code around it has seen to be there: an item at an index of its own list, a class of which an item
 * was found. A default in its place would hide that this does not hold, and would go on with a guess.
 *
 * @throws Error where the thing is not there, which is a fault of the program
 */
export function surely<T>(thing: T | undefined): T {
  if (thing === undefined) throw new Error('a thing is missing that is surely there')
  return thing
}
