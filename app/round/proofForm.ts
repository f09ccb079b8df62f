/** Id of the form that the round's foot sends. */
export const PROOF_FORM = "proof";
