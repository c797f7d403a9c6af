/** Where sections lie, mm from the tooth's middle; left out where the plan decides. */
export interface Sections {
  across?: number;
  along?: number;
}
