import type { WireFigure } from "./figure.ts";
import type { KpiHead, PanelAnswer, ScorecardAnswer, TilesAnswer, TimeChartAnswer } from "./panels.ts";

/** The numbers behind a panel: texts, numbers in full, `null` where a figure is absent. */
export interface PanelTable {
  readonly heads: readonly string[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

const of = (figure: WireFigure | null | undefined) => (figure && "value" in figure ? figure.value : null);

/**
 * The numbers behind a panel, each in its KPI's own unit and unrounded. Percentages are
 * fractions, as spreadsheets keep them. Screen copies and files are made from this one table.
 */
export function panelTable(answer: PanelAnswer): PanelTable {
  switch (answer.kind) {
    case "scorecard":
      return scorecardTable(answer);
    case "tiles":
      return tilesTable(answer);
    case "time-chart":
      return timeChartTable(answer);
  }
}

function tilesTable({ frame, figures, tiles, others }: TilesAnswer): PanelTable {
  return {
    heads: [
      "KPI",
      "Member",
      "Unit",
      "Period",
      "Scope",
      "Actual",
      "Basis name",
      "Basis",
      "Variance",
      "Variance of basis",
      "Share of basis reached",
      "Judgement",
      ...figures.map((f) => f.name),
      "Why absent",
    ],
    rows: [...tiles, ...(others ? [others.tile] : [])].map((tile) => [
      tile.row.kpi.name,
      tile.member?.name ?? (tile === others?.tile ? `The other ${others.count}` : null),
      unitText(tile.row.kpi),
      `${frame.words.span}, ${frame.words.spanMonths}`,
      frame.words.scope,
      of(tile.row.actual),
      tile.row.basisName,
      of(tile.row.basis),
      of(tile.row.variance.delta),
      of(tile.row.variance.deltaPercent),
      of(tile.attainment),
      tile.row.variance.judgement,
      ...tile.figures.map((f) => of(f.figure)),
      "absent" in tile.row.actual ? tile.row.actual.detail : null,
    ]),
  };
}

function scorecardTable({ frame, groups }: ScorecardAnswer): PanelTable {
  const rows = groups.flatMap((group) => group.rows.map((row) => ({ group: group.title, row })));
  const has = (pick: (row: (typeof rows)[number]["row"]) => unknown) => rows.some(({ row }) => pick(row) !== null);
  const columns: { head: string; cell: (entry: (typeof rows)[number]) => string | number | null }[] = [
    { head: "Group", cell: ({ group }) => group },
    { head: "KPI", cell: ({ row }) => row.kpi.name },
    { head: "Unit", cell: ({ row }) => unitText(row.kpi) },
    { head: "Period", cell: () => `${frame.words.span}, ${frame.words.spanMonths}` },
    { head: "Scope", cell: () => frame.words.scope },
    { head: "Actual", cell: ({ row }) => of(row.actual) },
    { head: "Basis name", cell: ({ row }) => row.basisName },
    { head: "Basis", cell: ({ row }) => of(row.basis) },
    { head: "Variance", cell: ({ row }) => of(row.variance.delta) },
    { head: "Variance of basis", cell: ({ row }) => of(row.variance.deltaPercent) },
    { head: "Judgement", cell: ({ row }) => row.variance.judgement },
    {
      head: "Status",
      cell: ({ row: { status } }) => (status && "word" in status ? status.word : null),
    },
    ...(has((r) => r.priorYear)
      ? [
          { head: "Prior year", cell: ({ row }: (typeof rows)[number]) => of(row.priorYear) },
          { head: "Growth on prior year", cell: ({ row }: (typeof rows)[number]) => of(row.growth) },
        ]
      : []),
    ...(has((r) => r.toDate)
      ? [
          { head: "Year to date", cell: ({ row }: (typeof rows)[number]) => of(row.toDate?.actual) },
          { head: "Variance year to date", cell: ({ row }: (typeof rows)[number]) => of(row.toDate?.variance.delta) },
        ]
      : []),
    ...(has((r) => r.outlook)
      ? [
          { head: "Outlook", cell: ({ row }: (typeof rows)[number]) => of(row.outlook?.actual) },
          { head: "Variance full year", cell: ({ row }: (typeof rows)[number]) => of(row.outlook?.variance.delta) },
        ]
      : []),
    { head: "Why absent", cell: ({ row }) => ("absent" in row.actual ? row.actual.detail : null) },
  ];
  return { heads: columns.map((c) => c.head), rows: rows.map((entry) => columns.map((c) => c.cell(entry))) };
}

function timeChartTable({ kpi, points, basisName, references }: TimeChartAnswer): PanelTable {
  return {
    heads: [
      "KPI",
      "Unit",
      "Month",
      "Actual",
      "Forecast",
      "Budget",
      "Target",
      "Prior year",
      "Basis name",
      "Basis",
      "Variance",
      "Judgement",
      ...references.map((line) => line.name),
    ],
    rows: points.map((p) => [
      kpi.name,
      unitText(kpi),
      p.month,
      of(p.actual),
      of(p.forecast),
      of(p.budget),
      of(p.target),
      of(p.priorYear),
      basisName,
      of(p.basis),
      of(p.variance.delta),
      p.variance.judgement,
      ...references.map((line) => of(line.figure)),
    ]),
  };
}

function unitText({ unit }: KpiHead): string {
  switch (unit.kind) {
    case "money":
      return "€";
    case "money-per":
      return `€ per ${unit.per}`;
    case "count":
      return unit.of;
    case "percent":
      return "fraction";
    case "days":
      return "days";
    case "ratio":
      return unit.of === "" ? "ratio" : unit.of;
  }
}

/** The table as tab-separated text: pasted into a spreadsheet, numbers are numbers and texts stay texts. */
export function tableAsTsv({ heads, rows }: PanelTable): string {
  const cell = (value: string | number | null) => (value === null ? "" : String(value).replace(/[\t\r\n]+/g, " "));
  return [heads, ...rows].map((row) => row.map(cell).join("\t")).join("\n");
}
