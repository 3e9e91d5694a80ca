import { PACKS } from "#contract/operations/packs.ts";
import { VERSIONS } from "#contract/operations/versions.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Version, VersionList } from "#contract/versions.ts";
import { formatNumber } from "#core/formats/number-words.ts";
import { call } from "../client/api.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { TextButton, Tick } from "../ui/form.tsx";
import { TextInPlace } from "../ui/text-in-place.tsx";

import { Adjustments, VersionWork } from "./version-work.tsx";
import { useAnswer } from "../client/answer.ts";

type Change = Partial<Pick<Version, "name" | "isOpen" | "isRetired">>;

/** Versions of budget, forecast and target: how each came to be, and which one outlooks go by. */
export function VersionsPage() {
  const client = useQueryClient();
  const versions = useAnswer(VERSIONS.versions);
  const [pack] = useAnswer(PACKS.packs).data?.filter((one) => !one.isRetired && one.pages.length > 0) ?? [];
  const page = pack ? `/packs/${pack.key}/${pack.pages[0]!.key}` : null;
  const [problem, setProblem] = useState<string | null>(null);
  const [showsRetired, setShowsRetired] = useState(false);
  useEffect(() => {
    document.title = "Versions · Hackle";
  }, []);
  const change = async (version: string, body: Change) => {
    setProblem(null);
    try {
      await call(VERSIONS.changeVersion, { params: { version }, body });
      await client.invalidateQueries();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <div className="px-6 pt-4 pb-8">
      <h1 className="font-serif text-[21px]">Versions</h1>
      <p className="mt-1 mb-4 max-w-3xl text-slate">
        Choose any version as the basis in a page’s sentence, or compare two versions below. “Forecast” and the outlook
        use the latest frozen version.
      </p>
      {problem && (
        <p role="alert" className="mb-3 text-madder">
          {problem}
        </p>
      )}
      <AnswerSheet label="Versions" answer={versions} skeleton={<div className="waiting m-5 h-24" />}>
        {({ versions: all, mayEdit }: VersionList) => (
          <div>
            {all.some(({ isRetired }) => isRetired) && (
              <div className="px-5 pt-3">
                <Tick label="Show retired versions" isOn={showsRetired} onChange={setShowsRetired} />
              </div>
            )}
            {page !== null && <CompareVersions versions={all} page={page} />}
            {all
              .filter(({ isRetired }) => showsRetired || !isRetired)
              .map((version) => (
                <VersionSection
                  key={version.key}
                  version={version}
                  page={page}
                  mayEdit={mayEdit}
                  onChange={(next) => void change(version.key, next)}
                />
              ))}
          </div>
        )}
      </AnswerSheet>
    </div>
  );
}

/** Two versions beside each other on a page: absolute, in percent, by member and by month, as any comparison. */
function CompareVersions({ versions, page }: { versions: VersionList["versions"]; page: string }) {
  const [newest, second] = versions.filter(({ isRetired }) => !isRetired);
  const [shown, setShown] = useState(newest?.key ?? "");
  const [basis, setBasis] = useState(second?.key ?? "");
  if (versions.length < 2) return null;
  const pick = (label: string, chosen: string, choose: (key: string) => void) => (
    <label className="flex items-center gap-2">
      <span className="text-slate">{label}</span>
      <select className="field !w-auto" value={chosen} onChange={(event) => choose(event.target.value)}>
        {versions.map(({ key, name, isRetired }) => (
          <option key={key} value={key}>
            {name}
            {isRetired && ", retired"}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <section
      aria-label="Compare two versions"
      className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-thread px-5 py-3 text-[13px]"
    >
      {pick("Compare", shown, setShown)}
      {pick("with", basis, setBasis)}
      {shown === basis ? (
        <span className="text-slate">Choose two different versions.</span>
      ) : (
        <Link
          className="inline-flex min-h-[24px] items-center text-accent hover:underline"
          to={`${page}?span=full-year&shown=${shown}&basis=${basis}`}
        >
          Compare them over the full year
        </Link>
      )}
    </section>
  );
}

function VersionSection({
  version,
  page,
  mayEdit,
  onChange,
}: {
  version: Version;
  /** The page that opens with it as the basis; `null` where there is none. */
  page: string | null;
  mayEdit: boolean;
  onChange: (change: Change) => void;
}) {
  const { key, name, kind, madeAfter, months, isOpen, isRetired, isLatest, made, modelPart, loads } = version;
  const isForecast = kind === "forecast";
  const state = isRetired
    ? "retired"
    : isOpen
      ? "open: not used in outlooks yet"
      : isLatest
        ? "latest forecast: used in outlooks"
        : "frozen";
  return (
    <section aria-label={name} className="border-b border-thread px-5 py-4 last:border-0">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="font-serif text-[17px]">
          {mayEdit ? (
            <TextInPlace
              label={`Name of ${name}`}
              value={name}
              drafted={name}
              onCommit={(next) => next !== "" && onChange({ name: next })}
            />
          ) : (
            name
          )}
        </h2>
        <span className="text-[13px] text-slate">
          {kind}
          {isForecast && ` · ${state}`}
        </span>
        <span className="ml-auto flex flex-wrap gap-x-4">
          {page !== null && (
            <Link
              className="inline-flex min-h-[24px] items-center text-[13px] text-accent hover:underline"
              to={`${page}?basis=${key}`}
            >
              Compare actuals with it
            </Link>
          )}
          {modelPart !== null && page !== null && (
            <Link
              className="inline-flex min-h-[24px] items-center text-[13px] text-accent hover:underline"
              to={`${page}?span=full-year&shown=${key}&basis=${modelPart}`}
            >
              Compare with what it was before
            </Link>
          )}
          {mayEdit && <VersionWork version={version} />}
          {mayEdit && isForecast && !isRetired && (
            <TextButton onClick={() => onChange({ isOpen: !isOpen })}>{isOpen ? "Freeze" : "Open again"}</TextButton>
          )}
          {mayEdit && (
            <TextButton onClick={() => onChange({ isRetired: !isRetired })}>
              {isRetired ? "Bring back" : "Retire"}
            </TextButton>
          )}
        </span>
      </div>
      <p className="mt-1 text-[13px]">
        {madeAfter && `Made after ${madeAfter.name}. `}It has {months}.
      </p>
      {made && (
        <>
          <p className="mt-1 text-[13px]">
            {made.kpi.name} {made.of}, by {made.by}, {dateTimeWords(made.at)}: {made.series} series forecast
            {settingsWords(made.settings)}.
          </p>
          <details className="mt-1 text-[13px]">
            <summary className="min-h-[24px] cursor-pointer text-accent">The models</summary>
            <ul className="mt-1">
              {made.models.map(({ name: of, model }) => (
                <li key={of}>
                  {of}: <span className="text-slate">{model}</span>
                </li>
              ))}
            </ul>
          </details>
        </>
      )}
      <Adjustments version={version} mayEdit={mayEdit} />
      {loads.length > 0 && (
        <ul className="mt-1 text-[13px] text-slate">
          {loads.map((load) => (
            <li key={load.id}>
              <Link
                className="inline-flex min-h-[24px] items-center text-accent hover:underline"
                to={`/loads/${load.id}`}
              >
                {load.name}
              </Link>
              , {formatNumber(load.rows, 0)} rows, {load.by}, {dateTimeWords(load.at)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function settingsWords({ horizon, without, method, season, way }: NonNullable<Version["made"]>["settings"]): string {
  const parts = [
    horizon === undefined ? null : `${horizon} months ahead`,
    without ? `without the last ${without}` : null,
    season === undefined ? null : season === 1 ? "no season" : `a season of ${season}`,
    method ?? null,
    way === "itself" ? "the series itself" : null,
  ].filter((part) => part !== null);
  return parts.length === 0 ? "" : `, ${parts.join(", ")}`;
}
