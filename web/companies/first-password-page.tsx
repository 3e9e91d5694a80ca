import { SESSION } from "#contract/operations/session.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { SHORTEST_PASSWORD } from "#contract/companies.ts";
import { call } from "../client/api.ts";
import { Button, Field } from "../ui/form.tsx";
import { answerKey } from "../client/answer.ts";

/** What somebody meets who comes in with a password that was chosen for them. */
export function FirstPasswordPage({ name }: { name: string }) {
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="font-serif text-[24px]">Welcome, {name}</h1>
      <p className="mt-2 text-slate">Your current password was chosen by someone else. Choose your own to continue.</p>
      <div className="mt-5 rounded-lg border border-thread bg-panel p-5">
        <PasswordForm />
      </div>
    </main>
  );
}

/** Chooses a password of one's own. */
export function PasswordForm() {
  const client = useQueryClient();
  const [current, setCurrent] = useState("");
  const [password, setPassword] = useState("");
  const choose = useMutation({
    mutationFn: () => call(SESSION.setPassword, { body: { current, password } }),
    onSuccess: (session) => {
      setCurrent("");
      setPassword("");
      client.setQueryData(answerKey(SESSION.session), session);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    choose.mutate();
  };
  return (
    <form className="grid gap-3" onSubmit={submit}>
      <Field label="Current password">
        <input
          className="field"
          type="password"
          required
          autoComplete="current-password"
          value={current}
          onChange={(event) => setCurrent(event.target.value)}
        />
      </Field>
      <Field label={`New password, at least ${SHORTEST_PASSWORD} characters`}>
        <input
          className="field"
          type="password"
          required
          autoComplete="new-password"
          minLength={SHORTEST_PASSWORD}
          maxLength={200}
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </Field>
      {choose.error && (
        <p role="alert" className="border-l-2 border-madder pl-3">
          {choose.error.message}
        </p>
      )}
      <div className="flex items-center gap-3">
        <Button kind="main" type="submit" isDisabled={choose.isPending}>
          Change password
        </Button>
        {choose.isSuccess && <span role="status">Your password is changed.</span>}
      </div>
    </form>
  );
}
