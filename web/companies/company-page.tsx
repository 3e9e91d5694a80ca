import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type FormEvent } from "react";
import { Link, useNavigate } from "react-router";
import { monthName, monthOf } from "#core/calendar/month.ts";
import type { NumberWriting } from "#core/words/writing.ts";
import type { Company } from "#contract/companies.ts";
import { call } from "../app/api.ts";
import { answerKey, useCompanies, useCompany, usePerson } from "../app/questions.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { Button, Field } from "../ui/form.tsx";
import { Sheet } from "../ui/sheet.tsx";
import { CompanyChoice } from "./company-choice.tsx";
import { CurrencyField } from "./currency-field.tsx";
import { NumberWritingField } from "./number-writing-field.tsx";
import { PasswordForm } from "./first-password-page.tsx";
import { PeopleSheet } from "./people-sheet.tsx";

/** The company: what it is called, how it counts, who belongs to it, and how it is taken along or ended. */
export function CompanyPage() {
  const person = usePerson().data;
  const company = useCompany();
  const companies = useCompanies();
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
  const change = useMutation({
    mutationFn: () => call("changeCompany", { body: { name, currency, numbers } }),
    onSuccess: async (answer) => {
      client.setQueryData(answerKey("company"), answer);
      // Every figure of money is written in it.
      await client.invalidateQueries();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate();
  };
  const opens = monthName(monthOf(2000, company.startMonth));
  const isSame = name.trim() === company.name && currency === company.currency && numbers === company.numbers;
  return (
    <form className="grid gap-3 p-5" onSubmit={submit}>
      <h2 className="font-serif text-lg">The company</h2>
      <fieldset disabled={!mayChange} className="grid gap-3 sm:grid-cols-[2fr_1fr_1fr]">
        <Field label="What it is called">
          <input
            className="field"
            required
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <CurrencyField value={currency} onChange={setCurrency} />
        <NumberWritingField label="Numbers are written" value={numbers} onChange={setNumbers} />
      </fieldset>
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
        The fiscal year opens in {opens}.{" "}
        <Link to="/structure/calendar" className="text-accent hover:underline">
          Calendar and datasets
        </Link>
      </p>
      {change.error && (
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

/** How whoever is signed in reads numbers. */
function OwnWriting() {
  const person = usePerson().data;
  const client = useQueryClient();
  const choose = useMutation({
    mutationFn: (numbers: NumberWriting | null) => call("setWriting", { body: { numbers } }),
    onSuccess: async (answer) => {
      client.setQueryData(answerKey("session"), answer);
      // Words that the server wrote are asked for anew.
      await client.invalidateQueries();
    },
  });
  if (!person) return null;
  return (
    <Sheet title="How you read numbers">
      <div className="grid max-w-sm gap-2">
        <NumberWritingField
          label="For you, numbers are written"
          value={person.numbers}
          asCompany={`as the company writes them: ${person.company.numbers}`}
          onChange={(numbers) => choose.mutate(numbers)}
        />
        <p className="text-slate">On screen, in copies and in files of tables. Nobody else sees a difference.</p>
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
    mutationFn: () => call("removeCompany", { body: { name } }),
    onSuccess: async () => {
      client.clear();
      await navigate("/sign-in", { replace: true });
    },
  });
  return (
    <Sheet title="Take it along, or end it">
      <p>
        <a className="text-accent hover:underline" href="/api/company/export.zip" download>
          All of {company.name} in one archive
        </a>
        <span className="text-slate">: every table as CSV, and the files that were brought. Passwords stay here.</span>
      </p>
      {company.isSample ? (
        <p className="mt-3 text-slate">
          The sample company is not removed here. A server that is started with HACKLE_SAMPLE=off is without it.
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
            Removing it takes its figures, people, pages and files, for everybody and for good. Write{" "}
            <strong>{company.name}</strong> to say that it is meant.
          </p>
          <div className="flex items-end gap-3">
            <Field label="The company’s name">
              <input className="field" value={name} onChange={(event) => setName(event.target.value)} />
            </Field>
            <Button type="submit" isDisabled={name.trim() !== company.name || remove.isPending}>
              Remove it
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
