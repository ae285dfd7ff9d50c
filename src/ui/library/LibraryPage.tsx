'use client'
import { Trash2 } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { Tooltip } from 'radix-ui'
import { type LibraryPicture } from '@/document/library'
import { Button } from '@/ui/primitives/Button'
import { projectOfPicture } from '@/ui/shelf/shelfActs'
import { SiteHeader } from '@/ui/shelf/SiteHeader'
import { useDropAnywhere } from '@/ui/store/dropAnywhere'
import { takeOutOfLibrary } from '@/ui/store/library'
import { say } from '@/ui/store/say'
import { chooseNone, useBrowsing } from './browsing'
import { addToLibrary, LibraryBrowser, useChosen } from './LibraryBrowser'
import { Notes } from '@/ui/primitives/Notes'

export function LibraryPage() {
  const router = useRouter()
  const { kind, group } = useBrowsing(),
    chosen = useChosen(),
    kept = chosen.filter((each) => each.kept)
  useDropAnywhere((files) => addToLibrary(kind, group, files))
  const start = async (picture: LibraryPicture) => {
    try {
      router.push(`/project/${await projectOfPicture(picture, picture.name)}`)
    } catch (error) {
      say(error)
    }
  }
  const acts = chosen.length ? (
    <>
      <span className="mr-auto">{chosen.length} chosen</span>
      <Button onClick={chooseNone}>Choose none</Button>
      <Button
        why={kept.length ? undefined : 'They are listed as long as a project shows them.'}
        onClick={() => {
          void takeOutOfLibrary(kind, kept)
          chooseNone()
        }}
      >
        <Trash2 size={14} />
        Remove from the library
      </Button>
      <Button
        tone="accent"
        why={chosen.length > 1 ? 'Choose one picture to start on.' : undefined}
        onClick={() => void start(chosen[0])}
      >
        New project
      </Button>
    </>
  ) : (
    <span className="text-[var(--muted)]">
      Pictures here can be taken into every project, in its stage Gather. Drop more anywhere, or paste one.
    </span>
  )
  return (
    <Tooltip.Provider>
      <main className="mx-auto flex h-screen max-w-6xl flex-col px-8 pt-7 pb-3">
        <SiteHeader here="library" />
        <LibraryBrowser acts={acts} onUse={(picture) => void start(picture)} />
      </main>
      <Notes />
    </Tooltip.Provider>
  )
}
