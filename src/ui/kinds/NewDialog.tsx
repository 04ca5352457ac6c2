'use client'

import { useState, type FormEvent, type ReactNode } from 'react'
import type { EnvironmentDocument } from '../../core/kinds/kinds'
import { ProblemError, type Problem } from '../../core/problem'
import { createEnvironment } from '../../session/api/environments'
import { Button } from '../parts/Button'
import { Modal } from '../parts/Modal'
import { ProblemList } from '../parts/ProblemList'

/** Asks for a name, and for what else a kind wants to know, and makes an environment. */
export function NewDialog({
  open,
  title,
  width,
  placeholder,
  make,
  onClose,
  onMade,
  children,
}: {
  open: boolean
  title: string
  width: string
  /** The name where none is given. */
  placeholder: string
  make(name: string): EnvironmentDocument
  onClose(): void
  onMade(id: string): void
  children: ReactNode
}) {
  const [name, setName] = useState('')
  const [problems, setProblems] = useState<readonly Problem[]>([])
  // A name that was given up does not wait for the next one.
  const cancel = () => {
    setName('')
    setProblems([])
    onClose()
  }
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const made = await createEnvironment(JSON.stringify(make(name.trim() || placeholder)))
      onMade(made.id)
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setProblems(error.problems)
    }
  }
  return (
    <Modal open={open} title={title} width={width} onClose={cancel}>
      <form onSubmit={submit} className="space-y-4">
        <label className="flex flex-col">
          <span className="text-[13px] text-ink-soft">Name</span>
          <input
            autoFocus
            className="rounded-sm border border-rule-strong bg-sheet px-2 py-1"
            value={name}
            maxLength={120}
            placeholder={placeholder}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {children}
        {problems.length > 0 && <ProblemList problems={problems} />}
        <div className="flex justify-end gap-2">
          <Button onClick={cancel}>Cancel</Button>
          <Button look="ink" type="submit">
            Create
          </Button>
        </div>
      </form>
    </Modal>
  )
}

/** What a new environment can begin with, of which one is chosen. */
export function Beginnings({
  all,
  chosen,
  onChoose,
}: {
  all: readonly { readonly title: string; readonly what: string }[]
  /** By its place. */
  chosen: number
  onChoose(place: number): void
}) {
  return (
    <fieldset className="space-y-1">
      <legend className="text-[13px] text-ink-soft">Begin with</legend>
      {all.map(({ title, what }, i) => (
        <label key={title} className="flex items-baseline gap-2">
          <input
            type="radio"
            name="begin"
            className="accent-ink"
            checked={chosen === i}
            onChange={() => onChoose(i)}
          />
          <span className="leading-5">
            {title}
            <span className="block text-[13px] leading-4 text-ink-soft">{what}</span>
          </span>
        </label>
      ))}
    </fieldset>
  )
}
