/** Where a request came from, as scripts/serve.mjs tells it. */
export function addressOf({ headers }: Request): string {
  return headers.get('x-address') ?? 'unknown'
}

/** Whether the browser came by HTTPS, through a proxy that says so. */
export function isSecure({ headers }: Request): boolean {
  return headers.get('x-secure') === 'yes'
}
