import type { DemoDocument } from './demo-document.ts'

/** The story of the demo, each command with its exit code and its document. */
export function demoJson(
  folder: string,
  steps: readonly { call: readonly string[]; exit: number; out: string }[],
  next: readonly string[],
): DemoDocument {
  return {
    command: 'demo',
    schema: 1,
    folder,
    steps: steps.map(({ call, exit, out }) => ({
      call: [...call],
      exit,
      document: JSON.parse(out) as unknown,
    })),
    problems: [],
    next: [...next],
  }
}
