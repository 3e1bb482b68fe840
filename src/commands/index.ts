import Backup from './backup/index.ts'
import BackupList from './backup/list.ts'
import Carry from './carry.ts'
import Check from './check.ts'
import Completion from './completion.ts'
import Demo from './demo.ts'
import Overview from './overview.ts'
import Deliver from './deliver.ts'
import Restore from './restore.ts'
import Settle from './settle.ts'
import Setup from './setup.ts'
import WhatsNew from './whatsnew.ts'
import VanillaAdd from './vanilla/add.ts'
import VanillaGuess from './vanilla/guess.ts'
import VanillaList from './vanilla/list.ts'
import VanillaOrder from './vanilla/order.ts'
import VanillaRemove from './vanilla/remove.ts'
import VanillaVerify from './vanilla/verify.ts'

/** The commands by the words that call them. */
export const COMMANDS = {
  backup: Backup,
  'backup:list': BackupList,
  carry: Carry,
  check: Check,
  completion: Completion,
  deliver: Deliver,
  demo: Demo,
  overview: Overview,
  restore: Restore,
  settle: Settle,
  setup: Setup,
  'vanilla:add': VanillaAdd,
  'vanilla:guess': VanillaGuess,
  'vanilla:list': VanillaList,
  'vanilla:order': VanillaOrder,
  'vanilla:remove': VanillaRemove,
  'vanilla:verify': VanillaVerify,
  whatsnew: WhatsNew,
}
