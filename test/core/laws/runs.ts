/**
 * How often each law is tried. The seed is fixed so that a run can be trusted to be the same
 * everywhere; `LAW_SEED` and `LAW_RUNS` take it further: `LAW_SEED=$RANDOM LAW_RUNS=5000 npm test`.
 */
export const RUNS = {
  numRuns: Number(process.env.LAW_RUNS ?? 50),
  seed: Number(process.env.LAW_SEED ?? 4102),
  /** Of a mutant it is enough that a law does not hold: the smallest counterexample is nobody's. */
  endOnFailure: process.env.LAW_SHRINK === 'no',
}
