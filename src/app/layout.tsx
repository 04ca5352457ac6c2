import type { Metadata } from 'next'
import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { PUT_AWAY } from '../ui/shelf/first-steps'
import './globals.css'

export const metadata: Metadata = {
  title: { default: 'Jaunty Pawn', template: '%s · Jaunty Pawn' },
  description: 'Build small discrete environments, solve them exactly, and watch agents learn them.',
}

/** Sets the theme before anything is painted, and what was put away, so that a page never flashes and nothing moves. */
const SET_LOOKS = `try{if(localStorage.getItem('${PUT_AWAY}'))document.documentElement.dataset.firstSteps='away';var t=localStorage.getItem('theme');document.documentElement.dataset.theme=t||(matchMedia('(prefers-color-scheme: dark)').matches?'night':'day')}catch(e){}`

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Without it browsers run no script that stands in the page; see scripts/guard.mjs.
  const nonce = (await headers()).get('x-nonce') ?? undefined
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: SET_LOOKS }} />
      </head>
      <body>{children}</body>
    </html>
  )
}
