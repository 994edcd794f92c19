/** How wide a block is: known to its kind too, which says what speeds it cannot hold. */
export const BLOCK_MM = 9;
