/** A thread that takes a share of a job. */
import '@/core/network/withAllWeights'
import { type MessagePort as NodePort, workerData } from 'node:worker_threads'
import { helpWith } from '@/core/parallel/threads'
import { TASKS } from '@/engine/tasks'
import { drawFromFiles } from '../pictures/parts'

helpWith((workerData as { port: NodePort }).port as unknown as MessagePort, [...TASKS, drawFromFiles])
