/** Sent with every request that a page of ours makes; pages of other sites cannot. */
export const PAGE_HEADER = 'X-Bathyscope-Page';
