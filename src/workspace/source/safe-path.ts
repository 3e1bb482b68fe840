import { EXIT, Failure } from '../failure.ts'

/** Names that Windows keeps for devices, whatever follows the first dot. */
const DEVICE = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i

/**
 * The path of an entry of an archive, relative, with `/`. @throws Failure where it would leave the folder
 * that it is unpacked into: such an archive is refused as a whole, for nobody makes one by accident
 */
export function safePath(path: string, source: string): string {
  const slashed = path.replaceAll('\\', '/')
  const steps = slashed.split('/').filter((step) => step !== '' && step !== '.')
  const why = slashed.includes('\0')
    ? 'has a zero byte in it'
    : slashed.startsWith('/')
      ? 'is absolute'
      : /^[A-Za-z]:/.test(slashed)
        ? 'names a drive'
        : steps.includes('..')
          ? 'leads out of the folder'
          : undefined
  if (why === undefined) return steps.join('/')
  throw new Failure(
    'source/leaves-folder',
    `${source} holds the path ${visible(path)}, which ${why}`,
    {
      exit: EXIT.refused,
      hint: 'no game ships such an archive: do not unpack it, and get it anew from its source',
    },
  )
}

/** Why a path cannot be held by a file system of the audience, or undefined. */
export function unholdable(path: string): string | undefined {
  for (const step of path.split('/')) {
    if (/[<>:"|?*\u0001-\u001f]/.test(step))
      return 'has a character that Windows does not allow in names'
    if (/[. ]$/.test(step))
      return 'has a name that ends in a dot or a blank, which Windows cuts off'
    if (DEVICE.test(step)) return 'has a name that Windows keeps for a device'
    if (step.length > 255) return 'has a name of more than 255 characters'
  }
  return undefined
}

/** Whether a link stays inside the folder that it stands in. */
export function linkStaysInside(path: string, to: string): boolean {
  const target = to.replaceAll('\\', '/')
  if (target.startsWith('/') || /^[A-Za-z]:/.test(target)) return false
  let depth = path.split('/').length - 1
  for (const step of target.split('/')) {
    if (step === '..') depth--
    else if (step !== '' && step !== '.') depth++
    if (depth < 0) return false
  }
  return true
}

function visible(path: string): string {
  return JSON.stringify(path).slice(1, -1)
}
