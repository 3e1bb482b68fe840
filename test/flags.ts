/**
 * A flag of Node for the programs that the tests run, and for the tests: V8 makes fast code of what has run about six
 * times as often as it does by default. What runs for a second does not live to use that code, which takes a third of
 * the time of two cores to make. All of them are given it: the compiled code that one run leaves is for runs with the
 * same flags.
 */
export const COMPILE_LATER = '--interrupt-budget=400000'
