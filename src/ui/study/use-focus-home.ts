import { useEffect, type RefObject } from 'react'

/**
 * Keeps the keyboard's place: when what had the focus goes from the page, the nearest part around it that is still there
 * takes the focus, and not the page's body, from where one would have to begin again.
 */
export function useFocusHome(root: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const home = root.current
    if (!home) return
    let around: HTMLElement[] = []
    const remember = (event: FocusEvent) => {
      around = []
      for (let at = event.target as HTMLElement | null; at && at !== home; at = at.parentElement)
        around.push(at)
    }
    const look = () => {
      if (document.activeElement !== document.body || around.length === 0 || around[0].isConnected) return
      const left = around.find((each) => each.isConnected) ?? home
      around = []
      if (!left.matches('a[href], button, input, select, textarea, [tabindex]')) left.tabIndex = -1
      left.focus({ preventScroll: true })
    }
    home.addEventListener('focusin', remember)
    const observer = new MutationObserver(look)
    observer.observe(home, { childList: true, subtree: true })
    return () => {
      home.removeEventListener('focusin', remember)
      observer.disconnect()
    }
  }, [root])
}
