import { LOBBY } from "#contract/operations/lobby.ts";
import { COMPANY } from "#contract/operations/company.ts";
import { SESSION } from "#contract/operations/session.ts";
import { STRUCTURE } from "#contract/operations/structure.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type FormEvent } from "react";
import { Link, useNavigate } from "react-router";
import { monthName, monthOf } from "#core/calendar/month.ts";
import { DATE_WRITINGS, NUMBER_WRITINGS } from "#core/formats/writing.ts";
import type { OwnWriting as OwnWritingChoice } from "#contract/session.ts";
import { fiscalYearName, fiscalYearOf } from "#core/calendar/fiscal-calendar.ts";
import type { Company } from "#contract/companies.ts";
import { ApiProblem, call } from "../client/api.ts";
import { BothVersions } from "../ui/both-versions.tsx";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { Button, Field } from "../ui/form.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { CompanyChoice } from "./company-choice.tsx";
import { CurrencyField } from "./currency-field.tsx";
import { WritingField } from "./writing-field.tsx";
import { PasswordForm } from "./first-password-page.tsx";
import { PeopleSheet } from "./people-sheet.tsx";
import { answerKey, useAnswer } from "../client/answer.ts";

/** The company: what it is called, how it counts, who belongs to it, and how it is taken along or ended. */
export function CompanyPage() {
  const person = useAnswer(SESSION.session).data;
  const company = useAnswer(COMPANY.company);
  const companies = useAnswer(LOBBY.companies);
  const navigate = useNavigate();
  const mayChange = person?.role === "administrator";
  useEffect(() => {
    document.title = "Company · Hackle";
  }, []);
  return (
    <div className="max-w-4xl px-4 pt-4 pb-8 md:px-6">
      <h1 className="mb-3 font-serif text-[21px]">{company.data?.name ?? "Company"}</h1>
      {companies.data && <CompanyChoice list={companies.data} onEntered={() => void navigate("/")} />}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
        <AnswerSheet label="The company" answer={company} skeleton={<div className="waiting m-5 h-24" />}>
          {(data) => <About key={`${data.name} ${data.currency}`} company={data} mayChange={mayChange} />}
        </AnswerSheet>
        {mayChange && <PeopleSheet />}
        <OwnWriting />
        <Sheet title="Your password">
          <div className="max-w-sm">
            <PasswordForm />
          </div>
        </Sheet>
        {mayChange && company.data && <Ending company={company.data} />}
      </div>
    </div>
  );
}

function About({ company, mayChange }: { company: Company; mayChange: boolean }) {
  const client = useQueryClient();
  const [name, setName] = useState(company.name);
  const [currency, setCurrency] = useState(company.currency);
  const [numbers, setNumbers] = useState(company.numbers);
  const [dates, setDates] = useState(company.dates);
  const [weekStart, setWeekStart] = useState(company.weekStart);
  const [startMonth, setStartMonth] = useState(company.startMonth);
  const change = useMutation({
    // Of what somebody else changed meanwhile, whoever saves is told, rather than overwriting it unseen.
    mutationFn: async (seen: Partial<Company>) => {
      if (startMonth !== company.startMonth)
        await call(STRUCTURE.changeCalendar, {
          body: { startMonth, was: { startMonth: seen.startMonth ?? company.startMonth } },
        });
      const own = { name: name.trim(), currency, numbers, dates, weekStart: readWeekStart(weekStart) };
      const changed = (Object.keys(own) as (keyof typeof own)[]).filter((key) => own[key] !== company[key]);
      const pick = (from: Partial<Company>) => Object.fromEntries(changed.map((key) => [key, from[key]]));
      return call(COMPANY.changeCompany, { body: { ...pick(own), was: pick({ ...company, ...seen }) } });
    },
    onSuccess: async (answer) => {
      client.setQueryData(answerKey(COMPANY.company), answer);
      // Every figure of money is written in it.
      await client.invalidateQueries();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate({});
  };
  const refused = change.error instanceof ApiProblem ? change.error : undefined;
  const conflict = refused?.both;
  const isSame =
    name.trim() === company.name &&
    currency === company.currency &&
    numbers === company.numbers &&
    dates === company.dates &&
    weekStart === company.weekStart &&
    startMonth === company.startMonth;
  return (
    <form className="grid gap-3 p-5" onSubmit={submit}>
      <h2 className="font-serif text-lg">The company</h2>
      <fieldset disabled={!mayChange} className="grid gap-3 sm:grid-cols-[2fr_1fr_1fr]">
        <Field label="Company name">
          <input
            className="field"
            required
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <CurrencyField value={currency} onChange={setCurrency} />
        <WritingField label="Number format" writings={NUMBER_WRITINGS} value={numbers} onChange={setNumbers} />
        <Field label="First month of the fiscal year">
          <select className="field" value={startMonth} onChange={(e) => setStartMonth(Number(e.target.value))}>
            {Array.from({ length: 12 }, (_, i) => (
              <option key={i} value={i + 1}>
                {monthName(monthOf(2000, i + 1))}
              </option>
            ))}
          </select>
        </Field>
        <Field label="First day of the week">
          <select className="field" value={weekStart} onChange={(e) => setWeekStart(Number(e.target.value))}>
            {WEEK_STARTS.map(({ day, words }) => (
              <option key={day} value={day}>
                {words}
              </option>
            ))}
          </select>
        </Field>
        <WritingField label="Date format" writings={DATE_WRITINGS} value={dates} onChange={setDates} />
      </fieldset>
      {startMonth !== company.startMonth && (
        <p role="status" className="border-l-2 border-weld pl-3">
          Every amount stays in its month. Quarters, years, year to date and the prior year are gathered anew from{" "}
          {monthName(monthOf(2000, startMonth))} on, and months are named by other fiscal years:{" "}
          {yearsMoved(company.startMonth)} so far, {yearsMoved(startMonth)} then. Versions made for a fiscal year keep
          their months.
        </p>
      )}
      {weekStart !== company.weekStart && (
        <p role="status" className="border-l-2 border-weld pl-3">
          Figures by week are gathered anew, for everybody; weeks that begin on a Monday are numbered, others are named
          by the day they begin with. Figures by day and month stay what they are.
        </p>
      )}
      {dates !== company.dates && (
        <p role="status" className="border-l-2 border-weld pl-3">
          Days are written like {dates} from then on, for everybody who has not chosen otherwise. In files whose dates
          could be read either way, the {dates === "November 30, 2026" ? "month" : "day"} is taken to come first, and
          that is asked about.
        </p>
      )}
      {numbers !== company.numbers && (
        <p role="status" className="border-l-2 border-weld pl-3">
          Figures, texts about them, copies and files are written like {numbers} from then on, for everybody who has not
          chosen otherwise. The figures stay what they are.
        </p>
      )}
      {currency !== company.currency && currency.length === 3 && (
        <p role="status" className="border-l-2 border-weld pl-3">
          Every amount of money is written in {currency} from then on. The amounts stay as they were posted: nothing is
          converted.
        </p>
      )}
      <p className="text-slate">
        <Link to="/structure/calendar" className="text-accent hover:underline">
          Closed months, datasets and scenarios
        </Link>
      </p>
      {conflict && (
        <BothVersions
          conflict={{ message: refused.message, current: conflict.current as object, yours: conflict.yours as object }}
          names={SETTING_NAMES}
          onTakeTheirs={() => {
            const theirs = { ...company, ...(conflict.current as Partial<Company>) };
            setName(theirs.name);
            setCurrency(theirs.currency);
            setNumbers(theirs.numbers);
            setDates(theirs.dates);
            setWeekStart(theirs.weekStart);
            setStartMonth(theirs.startMonth);
            change.reset();
            void client.invalidateQueries();
          }}
          onKeepMine={() => change.mutate(conflict.current as Partial<Company>)}
        />
      )}
      {change.error && !conflict && (
        <p role="alert" className="border-l-2 border-madder pl-3">
          {change.error.message}
        </p>
      )}
      {mayChange && (
        <div>
          <Button kind="main" type="submit" isDisabled={isSame || change.isPending}>
            Save
          </Button>
        </div>
      )}
    </form>
  );
}

const SETTING_NAMES = {
  name: "Company name",
  numbers: "Number format",
  dates: "Date format",
  weekStart: "First day of the week",
  fiscal_start_month: "First month of the fiscal year",
};

function readWeekStart(day: number): 1 | 6 | 7 {
  return day === 6 || day === 7 ? day : 1;
}

const WEEK_STARTS = [
  { day: 1, words: "Monday" },
  { day: 7, words: "Sunday" },
  { day: 6, words: "Saturday" },
];

/** The fiscal year that the present month is in: "November 2026 is in FY27". */
function yearsMoved(startMonth: number): string {
  const today = new Date();
  const month = monthOf(today.getFullYear(), today.getMonth() + 1);
  return `${monthName(month)} ${today.getFullYear()} is in ${fiscalYearName(fiscalYearOf({ startMonth }, month))}`;
}

/** How whoever is signed in reads numbers and days. */
function OwnWriting() {
  const person = useAnswer(SESSION.session).data;
  const client = useQueryClient();
  const choose = useMutation({
    mutationFn: (own: OwnWritingChoice) => call(SESSION.setWriting, { body: own }),
    onSuccess: async (answer) => {
      client.setQueryData(answerKey(SESSION.session), answer);
      // Words that the server wrote are asked for anew.
      await client.invalidateQueries();
    },
  });
  if (!person) return null;
  return (
    <Sheet title="Your number and date format">
      <div className="grid max-w-sm gap-2">
        <WritingField
          label="Your number format"
          writings={NUMBER_WRITINGS}
          value={person.numbers}
          asCompany={`Company default: ${person.company.numbers}`}
          onChange={(numbers) => choose.mutate({ numbers })}
        />
        <WritingField
          label="Your date format"
          writings={DATE_WRITINGS}
          value={person.dates}
          asCompany={`Company default: ${person.company.dates}`}
          onChange={(dates) => choose.mutate({ dates })}
        />
        <p className="text-slate">Applies on screen, to copies and to table exports, for you only.</p>
        {choose.error && (
          <p role="alert" className="border-l-2 border-madder pl-3">
            {choose.error.message}
          </p>
        )}
      </div>
    </Sheet>
  );
}

/** Taking the company along, and removing it whole. */
function Ending({ company }: { company: Company }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const remove = useMutation({
    mutationFn: () => call(COMPANY.removeCompany, { body: { name } }),
    onSuccess: async () => {
      client.clear();
      await navigate("/sign-in", { replace: true });
    },
  });
  return (
    <Sheet title="Export or delete this company">
      <p>
        <a className="text-accent hover:underline" href="/api/company/export.zip" download>
          Export {company.name} as one archive
        </a>
        <span className="text-slate">: every table as CSV, and the uploaded files. Passwords are not included.</span>
      </p>
      {company.isSample ? (
        <p className="mt-3 text-slate">
          The sample company cannot be deleted. Start Hackle with HACKLE_SAMPLE=off to hide it.
        </p>
      ) : (
        <form
          className="mt-4 grid max-w-xl gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            remove.mutate();
          }}
        >
          <p>
            Deleting it removes its figures, people, pages and files for everyone, permanently. Type{" "}
            <strong>{company.name}</strong> to confirm.
          </p>
          <div className="flex items-end gap-3">
            <Field label="Type the company name">
              <input className="field" value={name} onChange={(event) => setName(event.target.value)} />
            </Field>
            <Button type="submit" isDisabled={name.trim() !== company.name || remove.isPending}>
              Delete company
            </Button>
          </div>
          {remove.error && (
            <p role="alert" className="border-l-2 border-madder pl-3">
              {remove.error.message}
            </p>
          )}
        </form>
      )}
    </Sheet>
  );
}
