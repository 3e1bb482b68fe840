import { join } from 'node:path'

/** The name of the config file, and of the folder beside it that holds the state. */
export const CONFIG_NAME = 'anagnosis.yaml'
export const STATE_NAME = '.anagnosis'

/** Where everything stands in the state folder: the one place that knows. */
export class StateLayout {
  constructor(readonly root: string) {}

  get vanilla(): string {
    return join(this.root, 'vanilla')
  }

  /** The list of releases, in their order. */
  get releases(): string {
    return join(this.vanilla, 'releases.json')
  }

  get manifests(): string {
    return join(this.vanilla, 'manifests')
  }

  /** The list of the files of a release; named by the hash of its content. */
  manifest(hash: string): string {
    return join(this.manifests, `${hash}.json`)
  }

  get objects(): string {
    return join(this.vanilla, 'objects')
  }

  /** The content of a file, by its SHA-256 in hex. */
  object(hash: string): string {
    return join(this.objects, hash.slice(0, 2), hash.slice(2))
  }

  /** Where content is taken in before it belongs to a release. */
  incoming(id: string): string {
    return join(this.vanilla, `incoming-${id}`)
  }

  get journals(): string {
    return join(this.root, 'journals')
  }

  /** What a delivery or a restore of a variant does, as long as it is not done. */
  journal(variant: string): string {
    return join(this.journals, `${variant}.json`)
  }

  get drafts(): string {
    return join(this.root, 'drafts')
  }

  /** A plain folder. */
  draft(name: string): string {
    return join(this.drafts, name)
  }

  /** What a carry wrote into a draft and no release has, as it wrote that: what was edited by hand is told by it. */
  draftWritten(name: string): string {
    return join(this.drafts, `.${name}.written`)
  }

  /** What is known of a draft; beside it, so that the folder holds nothing but what can be put live. */
  draftRecord(name: string): string {
    return join(this.drafts, `${name}.json`)
  }

  /** Says which process has the draft of a variant on its screen. */
  draftHeld(variant: string): string {
    return join(this.drafts, `.${variant}.held`)
  }

  /** Where somebody left the screen on which the draft of a variant is settled. */
  screen(variant: string): string {
    return join(this.drafts, `.${variant}.screen`)
  }

  get backups(): string {
    return join(this.root, 'backups')
  }

  /** A plain folder. */
  backup(name: string): string {
    return join(this.backups, name)
  }

  /** What is known of a backup; beside it, so that the folder holds nothing but what was backed up. */
  backupFacts(name: string): string {
    return join(this.backups, `${name}.json`)
  }
}
