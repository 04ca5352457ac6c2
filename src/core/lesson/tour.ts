/** The lesson that shows a newcomer around; the shelf offers it by this name as long as it is there. */
export const TOUR = 'A first tour'
