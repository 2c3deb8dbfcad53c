/** Why a file is no clip that can be measured, and how to get one that can. */
export interface ClipTrouble {
  title: string;
  advice: string;
}
