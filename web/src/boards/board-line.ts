/** A board sheet as the list shows it. */
export interface BoardLine {
  readonly id: string;
  readonly title: string;
  readonly sourceName: string;
  /** null where this version cannot read the sheet. */
  readonly parts: number | null;
  readonly nets: number | null;
  readonly createdAt: string;
  readonly version: number;
  /** Set aside: not offered for new cases. */
  readonly archived: boolean;
}
