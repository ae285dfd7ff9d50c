import { BatchPage } from '@/ui/batch/BatchPage'

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params
  return <BatchPage id={id} />
}
