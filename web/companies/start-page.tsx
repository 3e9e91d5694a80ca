import { LOBBY } from "#contract/operations/lobby.ts";
import { SESSION } from "#contract/operations/session.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type FormEvent } from "react";
import { Link, useNavigate } from "react-router";
import { monthName, monthOf } from "#core/calendar/month.ts";
import { SHORTEST_PASSWORD, type CompanyStart } from "#contract/companies.ts";
import { call } from "../client/api.ts";
import { Comb } from "../shell/comb.tsx";
import { Button, Field } from "../ui/form.tsx";
import { CurrencyField } from "./currency-field.tsx";
import { answerKey, useAnswer } from "../client/answer.ts";

const EMPTY: CompanyStart = {
  name: "",
  currency: "EUR",
  startMonth: 1,
  administrator: { name: "", email: "", password: "" },
};

/** Starts a company of one's own: what it is called, how it counts, and who sees to it. */
export function StartPage() {
  const [start, setStart] = useState(EMPTY);
  const navigate = useNavigate();
  const client = useQueryClient();
  const companies = useAnswer(LOBBY.companies);
  useEffect(() => {
    document.title = "Start your own company · Hackle";
  }, []);
  const begin = useMutation({
    mutationFn: () => call(LOBBY.startCompany, { body: start }),
    onSuccess: async (session) => {
      client.clear();
      client.setQueryData(answerKey(SESSION.session), session);
      await navigate("/home", { replace: true });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    begin.mutate();
  };
  const { administrator } = start;
  const setAdministrator = (change: Partial<CompanyStart["administrator"]>) =>
    setStart({ ...start, administrator: { ...administrator, ...change } });
  return (
    <main className="mx-auto max-w-2xl px-6 py-10">
      <p className="flex items-center gap-3 text-accent">
        <Comb size={26} />
        <span className="font-serif text-2xl tracking-tight text-ink">Hackle</span>
      </p>
      <h1 className="mt-6 font-serif text-[26px] leading-snug">Start your own company</h1>
      <p className="mt-2 max-w-prose text-slate">
        It starts empty and separate from every other company here: its own figures, people and pages. You can change
        these settings later.
      </p>
      {companies.data?.mayStart === false && (
        <p role="alert" className="mt-4 border-l-2 border-madder pl-3">
          Companies can only be started on the server’s own machine.
        </p>
      )}
      <form className="mt-6 grid gap-6 rounded-lg border border-thread bg-panel p-6" onSubmit={submit}>
        <fieldset className="grid gap-3 sm:grid-cols-[2fr_1.2fr_1.4fr]">
          <legend className="mb-2 font-serif text-lg">The company</legend>
          <Field label="Company name">
            <input
              className="field"
              required
              autoFocus
              maxLength={80}
              value={start.name}
              onChange={(event) => setStart({ ...start, name: event.target.value })}
            />
          </Field>
          <CurrencyField value={start.currency} onChange={(currency) => setStart({ ...start, currency })} />
          <Field label="First month of its fiscal year">
            <select
              className="field"
              value={start.startMonth}
              onChange={(event) => setStart({ ...start, startMonth: Number(event.target.value) })}
            >
              {Array.from({ length: 12 }, (_, i) => (
                <option key={i} value={i + 1}>
                  {monthName(monthOf(2000, i + 1))}
                </option>
              ))}
            </select>
          </Field>
        </fieldset>
        <fieldset className="grid gap-3 sm:grid-cols-2">
          <legend className="mb-2 font-serif text-lg">Your administrator account</legend>
          <Field label="Your name">
            <input
              className="field"
              required
              autoComplete="name"
              maxLength={80}
              value={administrator.name}
              onChange={(event) => setAdministrator({ name: event.target.value })}
            />
          </Field>
          <Field label="E-mail address">
            <input
              className="field"
              type="email"
              required
              autoComplete="username"
              maxLength={200}
              value={administrator.email}
              onChange={(event) => setAdministrator({ email: event.target.value })}
            />
          </Field>
          <Field label={`Password, at least ${SHORTEST_PASSWORD} characters`}>
            <input
              className="field"
              type="password"
              required
              autoComplete="new-password"
              minLength={SHORTEST_PASSWORD}
              maxLength={200}
              value={administrator.password}
              onChange={(event) => setAdministrator({ password: event.target.value })}
            />
          </Field>
        </fieldset>
        {begin.error && (
          <p role="alert" className="border-l-2 border-madder pl-3">
            {begin.error.message}
          </p>
        )}
        <div className="flex items-center gap-4">
          <Button kind="main" type="submit" isDisabled={begin.isPending || companies.data?.mayStart === false}>
            {begin.isPending ? "Starting …" : "Start company"}
          </Button>
          <Link to="/sign-in" className="text-accent hover:underline">
            Back to sign-in
          </Link>
        </div>
      </form>
    </main>
  );
}
