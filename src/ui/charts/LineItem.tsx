import type { ReactNode } from 'react'
import { Button } from '../parts/Button'
import { Checkbox } from '../parts/Checkbox'
import { Icon } from '../parts/Icon'
import { LineSwatch } from './LineSwatch'

/** A line of a chart in a list: how it is drawn, whether it is, and what can be done with it. */
export function LineItem({
  look,
  name,
  hidden,
  actions,
  onHide,
  onRemove,
  children,
}: {
  /** The number of its look. */
  look: number
  name: string
  hidden: boolean
  /** Between the name and what removes it. */
  actions: ReactNode
  onHide(hidden: boolean): void
  onRemove(): void
  /** What stands below. */
  children?: ReactNode
}) {
  return (
    <li className="text-[13px]">
      <div className="flex items-center gap-1">
        <LineSwatch look={look} />
        <Checkbox
          className="ml-0.5 min-w-0 flex-1"
          checked={!hidden}
          title="Whether it is drawn and run"
          onChange={(checked) => onHide(!checked)}
        >
          {name}
        </Checkbox>
        {actions}
        <Button
          look="quiet"
          className="!px-1 !py-0"
          title="Remove it from the list"
          aria-label={`Remove ${name}`}
          onClick={onRemove}
        >
          <Icon name="cross" className="size-3.5" />
        </Button>
      </div>
      {children}
    </li>
  )
}
