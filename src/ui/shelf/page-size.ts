/** Environments that the shelf shows at first, and more at each wish for more. */
export const SHELF_PAGE = 48
