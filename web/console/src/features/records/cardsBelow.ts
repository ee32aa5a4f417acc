/** Under this width of the list itself, in rem, records are cards. */
export const cardsBelow = 40;
