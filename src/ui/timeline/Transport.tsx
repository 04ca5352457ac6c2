import { Button } from '../parts/Button'
import { Icon, type IconName } from '../parts/Icon'

interface Press {
  readonly icon: IconName
  readonly label: string
  /** The key that does the same, for the tooltip. */
  readonly shortcut?: string
  readonly strong?: boolean
  /** Why it cannot be pressed now; null when it can. */
  readonly blocked?: string | null
  onPress(): void
}

/** The buttons of a timeline, in one row. */
export function Transport({ presses }: { presses: readonly Press[] }) {
  return (
    <div className="flex gap-1" role="group" aria-label="Timeline">
      {presses.map(({ icon, label, shortcut, strong, blocked = null, onPress }, place) => (
        <Button
          // By place, so that the button stays the same, and keeps the focus, while play turns to pause.
          key={place}
          look={strong ? 'ink' : 'plain'}
          className="!px-1.5"
          aria-label={label}
          title={shortcut ? `${label} (${shortcut})` : label}
          disabled={blocked !== null}
          why={blocked ?? undefined}
          onClick={onPress}
        >
          <Icon name={icon} />
        </Button>
      ))}
    </div>
  )
}
