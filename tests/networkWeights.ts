/** Unit tests read the network's weights only where they ask the network: loading the module before each file would take longer than most tests. */
import { readFileSync } from 'node:fs'
import { giveWeights } from '@/core/network/network'

giveWeights(() => /=\s*'([^']+)'/.exec(readFileSync('src/core/network/weights.ts', 'utf8'))![1])
