/** Unit tests read the network's weights only where they ask the network: loading the module before each file would take longer than most tests. */
import { readFileSync } from 'node:fs'
import { giveWeights } from '@/core/network/network'

const read = (file: string) => () => /=\s*'([^']+)'/.exec(readFileSync(`src/core/network/${file}.ts`, 'utf8'))![1]
giveWeights('things', read('weights'))
giveWeights('anchors', read('anchorsWeights'))
giveWeights('water', read('waterWeights'))
giveWeights('sky', read('skyWeights'))
giveWeights('horizon', read('horizonWeights'))
