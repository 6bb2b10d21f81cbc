/** The method that numbers of a review were made with; raised whenever the same throws would come to other numbers. */
export const METHOD = 'flight and rating, edition 3'
