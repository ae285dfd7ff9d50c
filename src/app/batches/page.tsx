import { BatchList } from '@/ui/batch/BatchList'

export default function Page() {
  return <BatchList />
}
