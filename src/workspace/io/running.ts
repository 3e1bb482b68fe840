import { readFileSync } from 'node:fs'

/** Whether a process of this machine runs. */
export function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0)
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM' // it is another user's: what kill throws has a code
  }
  return !isEnded(pid)
}

/** Whether a process has ended, and stands in the list only until somebody asks for its exit code. */
function isEnded(pid: number): boolean {
  if (process.platform !== 'linux') return false
  try {
    const state = /\) (\w)/.exec(readFileSync(`/proc/${pid}/stat`, 'latin1'))?.[1]
    return state === 'Z' || state === 'X'
  } catch {
    return false // there is no such list here
  }
}
