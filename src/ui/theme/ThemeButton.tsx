'use client'

import { Button } from '../parts/Button'
import { Icon } from '../parts/Icon'
import { useTheme } from './theme'

/** Switches between day and night. */
export function ThemeButton() {
  const { theme, set } = useTheme()
  const other = theme === 'day' ? 'night' : 'day'
  return (
    <Button
      look="quiet"
      aria-label={`Switch to ${other}`}
      title={`Switch to ${other}`}
      suppressHydrationWarning
      onClick={() => set(other)}
    >
      <Icon name={other === 'night' ? 'moon' : 'sun'} />
    </Button>
  )
}
