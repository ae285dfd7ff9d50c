'use client'
import { Check, Copy, PencilLine, Scissors, Trash2 } from 'lucide-react'
import Link from 'next/link'
import { memo, useState } from 'react'
import { type ProjectSummary } from '@/document/exchanged'
import { IconButton } from '@/ui/primitives/Button'
import { Naming } from '@/ui/primitives/Naming'
import { dayOf } from '@/ui/primitives/when'

interface Acts {
  readonly rename: (project: ProjectSummary, name: string) => void
  readonly duplicate: (project: ProjectSummary) => void
  readonly remove: (project: ProjectSummary) => void
  readonly choose: (project: ProjectSummary, on: boolean) => void
}

export const ProjectCard = memo(function ProjectCard({
  project,
  chosen,
  acts,
}: {
  project: ProjectSummary
  chosen: boolean
  acts: Acts
}) {
  const [naming, setNaming] = useState(false)
  return (
    <div
      data-project={project.id}
      className={`group relative overflow-hidden rounded-xl border hover:border-[var(--line-strong)] ${chosen ? 'border-[var(--accent)] bg-[var(--chosen)]' : 'border-[var(--line)]'}`}
    >
      <Link href={`/project/${project.id}`} className="block">
        <div className="grid aspect-[3/2] place-items-center overflow-hidden bg-[#8a8a8a]">
          {project.hasCover ? (
            <img
              src={`/api/projects/${project.id}/cover?at=${encodeURIComponent(project.changed)}`}
              alt=""
              loading="lazy"
              className="size-full object-contain"
            />
          ) : (
            <Scissors size={28} className="text-white/60" />
          )}
        </div>
        <div className="px-3.5 pt-3 pb-11">
          {naming ? (
            <Naming
              label={`New name of ${project.name}`}
              name={project.name}
              done={(name) => {
                setNaming(false)
                if (name !== project.name) acts.rename(project, name)
              }}
              className="-mx-1.5 w-[calc(100%+12px)] rounded px-1 text-sm font-semibold"
            />
          ) : (
            <p className="truncate text-sm font-semibold">{project.name}</p>
          )}
          <p className="text-xs text-[var(--muted)]">
            {project.width} × {project.height} px · {dayOf(project.changed)}
          </p>
        </div>
      </Link>
      <span className="absolute inset-x-2 bottom-1.5 flex items-center opacity-70 group-focus-within:opacity-100 group-hover:opacity-100">
        <button
          type="button"
          role="checkbox"
          aria-checked={chosen}
          aria-label={`Choose ${project.name}`}
          onClick={() => acts.choose(project, !chosen)}
          className="mr-auto grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <span
            className={`grid size-[18px] place-items-center rounded border ${chosen ? 'border-[var(--accent)] bg-[var(--accent)] text-white' : 'border-[var(--line-strong)] bg-[var(--field)]'}`}
          >
            {chosen && <Check size={13} />}
          </span>
        </button>
        <IconButton label={`Rename ${project.name}`} onClick={() => setNaming(true)}>
          <PencilLine size={15} />
        </IconButton>
        <IconButton label={`Duplicate ${project.name}`} onClick={() => acts.duplicate(project)}>
          <Copy size={15} />
        </IconButton>
        <IconButton label={`Delete ${project.name}`} onClick={() => acts.remove(project)}>
          <Trash2 size={15} />
        </IconButton>
      </span>
    </div>
  )
})
