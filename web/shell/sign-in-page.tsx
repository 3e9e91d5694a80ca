import { LOBBY } from "#contract/operations/lobby.ts";
import { SESSION } from "#contract/operations/session.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { AnswerOf } from "#contract/operations/operation.ts";
import { call } from "../client/api.ts";
import { Comb } from "./comb.tsx";
import { CompanyChoice, enteredCompany } from "../companies/company-choice.tsx";
import { safeReturn } from "./addresses.ts";
import { answerKey, answerQuery, useAnswer } from "../client/answer.ts";

type SamplePerson = AnswerOf<typeof SESSION.samplePeople>[number];

/** Sign-in: one click for people of the sample company, or address and password. */
export function SignInPage() {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const client = useQueryClient();
  const companies = useAnswer(LOBBY.companies);
  const people = useAnswer(SESSION.samplePeople);
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: (by: { email: string; password?: string }) =>
      by.password === undefined
        ? call(SESSION.signInSample, { body: { email: by.email } })
        : call(SESSION.signIn, { body: { email: by.email, password: by.password } }),
    onSuccess: async (person) => {
      client.clear();
      client.setQueryData(answerKey(SESSION.session), person);
      await navigate(safeReturn(params.get("return")), { replace: true });
    },
  });
  const company = companies.data && enteredCompany(companies.data);
  /** Whoever has a session in the company they come back to needs no password. */
  const cameIn = async () => {
    const session = await client
      .fetchQuery({ ...answerQuery(SESSION.session, {}), retry: false })
      .catch(() => undefined);
    if (session) await navigate("/", { replace: true });
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ email, password });
  };
  const problem = signIn.error ?? people.error ?? companies.error;
  return (
    <main className="mx-auto grid min-h-screen max-w-5xl content-center gap-x-20 gap-y-10 px-6 py-10 md:grid-cols-[1fr_1.1fr]">
      <div className="self-center">
        <p className="flex items-center gap-3 text-accent">
          <Comb size={34} />
          <span className="font-serif text-4xl tracking-tight text-ink">Hackle</span>
        </p>
        <h1 className="mt-8 font-serif text-[28px] leading-snug">The management review, with every figure straight.</h1>
        <p className="mt-4 max-w-sm text-base text-slate">
          Actuals against budget, forecast, targets and prior year. Each figure says its span, its coverage and the
          lines it came from.
        </p>
        {company?.isSample && (
          <p className="mt-8 max-w-sm text-slate">
            Look around in {company.name}, the sample company: an invented ferry operator.
            {companies.data?.mayStart && (
              <>
                {" "}
                Or{" "}
                <Link to="/start" className="font-semibold text-accent hover:underline">
                  start your own company
                </Link>
                , empty, with your own files.
              </>
            )}
          </p>
        )}
      </div>
      <div className="self-start rounded-lg border border-thread bg-panel p-6">
        {params.has("ended") && (
          <p role="status" className="mb-4 border-l-2 border-weld pl-3">
            Your session has ended. Sign in again to return to this page.
          </p>
        )}
        {companies.data && <CompanyChoice list={companies.data} onEntered={() => void cameIn()} />}
        {companies.data && company === undefined ? (
          <p>
            There is no company here yet.{" "}
            {companies.data.mayStart ? "Start your own: it takes a minute." : "Ask your administrator to start one."}
          </p>
        ) : people.data?.length === 0 ? (
          <h2 className="font-serif text-lg">Sign in{company && !company.isSample ? ` to ${company.name}` : ""}</h2>
        ) : (
          <SamplePeople people={people.data} isBusy={signIn.isPending} onChoose={(email) => signIn.mutate({ email })} />
        )}
        <form className="mt-6 grid grid-cols-[1fr_1fr_auto] items-end gap-3" onSubmit={submit}>
          <label className="text-slate">
            E-mail
            <input
              type="email"
              autoComplete="username"
              required
              value={email}
              onChange={(e) => setEmail(e.target.value)}
              className="mt-1 w-full rounded border border-thread bg-ground px-2 py-1.5 text-ink"
            />
          </label>
          <label className="text-slate">
            Password
            <input
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(e) => setPassword(e.target.value)}
              className="mt-1 w-full rounded border border-thread bg-ground px-2 py-1.5 text-ink"
            />
          </label>
          <button
            type="submit"
            disabled={signIn.isPending}
            className="rounded bg-accent px-3 py-1.5 font-semibold text-panel"
          >
            Sign in
          </button>
        </form>
        {problem && (
          <p role="alert" className="mt-4 border-l-2 border-madder pl-3">
            {problem.message}
          </p>
        )}
      </div>
    </main>
  );
}

/** The people of the sample company, each one click away. */
function SamplePeople({
  people,
  isBusy,
  onChoose,
}: {
  people: readonly SamplePerson[] | undefined;
  isBusy: boolean;
  onChoose: (email: string) => void;
}) {
  return (
    <>
      <h2 className="font-serif text-lg">Continue as</h2>
      <ul className="mt-3 divide-y divide-thread border-y border-thread">
        {people?.map((person) => (
          <li key={person.email}>
            <button
              type="button"
              disabled={isBusy}
              onClick={() => onChoose(person.email)}
              className="group flex w-full items-baseline gap-3 px-1 py-2.5 text-left hover:bg-chosen"
            >
              <span className="flex-1">
                <span className="font-semibold">{person.name}</span>
                <span className="block text-slate">{person.title}</span>
              </span>
              <span className="text-slate">sees {person.sees}</span>
              <span aria-hidden="true" className="text-accent opacity-40 group-hover:opacity-100">
                →
              </span>
            </button>
          </li>
        ))}
        {people === undefined &&
          Array.from({ length: 5 }, (_, i) => (
            <li key={i} className="py-3">
              <div className="waiting h-8" />
            </li>
          ))}
      </ul>
    </>
  );
}
