/** Heads in this page, for where no server has any. */
export const pageHeads = () => import('@/heads/bench');
