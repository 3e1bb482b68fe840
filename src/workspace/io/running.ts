/** Whether a process of this machine is there. */
export function isRunning(pid: number): boolean {
  try {
    return process.kill(pid, 0)
  } catch (error) {
    // a process of somebody else may not be asked, and is there
    return error instanceof Error && 'code' in error && error.code === 'EPERM'
  }
}
