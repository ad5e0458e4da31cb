import { Button, Group, PasswordInput, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useRef, useState } from "react";
import { useSignIn } from "../api/queries";
import { Bolt } from "../drawing/Bolt";
import { at, bolt } from "../drawing/geometry";
import { Refusal } from "../ui/Refusal";
import { Language } from "./Language";
import { knownPeople } from "./lock";
import classes from "./shell.module.css";
import { tr } from "../words/words";

/** The way in. The drawing beside it is what the work looks like when it is done well. */
export function SignIn({ unreachable = false }: { unreachable?: boolean }) {
  const signIn = useSignIn();
  const [login, setLogin] = useInputState("");
  const [pin, setPin] = useInputState("");
  const [people] = useState(knownPeople.list);
  const pinField = useRef<HTMLInputElement>(null);
  return (
    <main className={classes.signIn}>
      <svg viewBox="-112 -112 224 224" className={classes.signInDrawing} aria-hidden="true">
        <circle r="100" fill="none" stroke="#3a4854" strokeWidth="0.8" />
        <circle r="52" fill="none" stroke="#3a4854" strokeWidth="0.8" />
        {Array.from({ length: 12 }, (_, i) => {
          const p = at(bolt(i + 1, 12, false), 80);
          return (
            <g key={i} transform={`translate(${p.x} ${p.y})`}>
              <Bolt r={12} level={[1, 1, 0.6, 1, 0.6, 0.2, 1, 0.6, 0.2, 1, 0.6, 0.2][i]} mark={i === 0 || i === 6 ? "still" : "none"} />
            </g>
          );
        })}
      </svg>
      <form
        className={classes.signInForm}
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate({ login, pin });
        }}
      >
        <Group component="h1" gap={12} fz={34}>
          <Mark /> {tr("Dynacor")}
        </Group>
        <p className="soft">{tr("Every bolt, its value, who and when.")}</p>
        {people.length > 0 && (
          <div className={classes.people} role="group" aria-label={tr("Who signed in here last")}>
            {people.map((p) => (
              <button
                key={p.login}
                type="button"
                className="pick"
                aria-pressed={login === p.login}
                onClick={() => {
                  setLogin(p.login);
                  pinField.current?.focus();
                }}
              >
                {p.name}
              </button>
            ))}
          </div>
        )}
        <TextInput
          label={tr("Name you sign in with")}
          name="login"
          value={login}
          onChange={setLogin}
          autoComplete="username"
          autoCapitalize="none"
          autoFocus
        />
        <PasswordInput
          ref={pinField}
          label={tr("PIN")}
          name="pin"
          value={pin}
          onChange={setPin}
          autoComplete="current-password"
          inputMode="numeric"
        />
        {signIn.isError || unreachable ? <Refusal error={signIn.error ?? new Error()} /> : null}
        <Button type="submit" color="now" size="lg" mih={64} loading={signIn.isPending} disabled={!login || pin.length < 4}>
          {tr("Sign in")}
        </Button>
        <Language />
        <p className="fine">
          {tr("Dynacor supports and does not replace the maker’s instructions, local codes, the site’s permits and qualified persons.")}
        </p>
      </form>
    </main>
  );
}

export function Mark() {
  return (
    <svg viewBox="-13 -12 26 24" width="28" height="26" aria-hidden="true">
      <polygon points="12,0 6,10.4 -6,10.4 -12,0 -6,-10.4 6,-10.4" fill="#fff" />
      <polygon points="12,0 6,10.4 -6,10.4 -12,0" fill="#e9642c" />
    </svg>
  );
}
