import { Shelf } from '@/ui/shelf/Shelf'

export default function Page() {
  return <Shelf />
}
