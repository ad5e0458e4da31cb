import { Button, Group, PasswordInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { http, take } from "../api/client";
import { useSignOut } from "../api/queries";
import type { Session } from "../api/types";
import { Form } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import { Mark } from "./SignIn";
import classes from "./shell.module.css";
import { tr } from "../words/words";

/** Whoever comes with a PIN for one time chooses their own before anything else. */
export function ChoosePin({ session }: { session: Session }) {
  const signOut = useSignOut();
  return (
    <main className={classes.choosePin}>
      <Group component="h1" gap={12} fz={34}>
        <Mark /> {session.person.name}
      </Group>
      <p className="big">{tr("Your PIN was for one time. Choose your own; nobody else needs to know it, and it signs for you.")}</p>
      <PinFields session={session} />
      <button type="button" className="link" onClick={() => signOut.mutate()}>
        {tr("Sign out")}
      </button>
    </main>
  );
}

/** The PIN one has, and the one that is to be: twice, as it cannot be seen. */
export function PinFields({ session, onChosen }: { session: Session; onChosen?: () => void }) {
  const queries = useQueryClient();
  const [old, setOld] = useInputState("");
  const [pin, setPin] = useInputState("");
  const [again, setAgain] = useInputState("");
  const choose = useMutation({
    mutationFn: () => take(http.PUT("/api/session/pin", { body: { old, pin } })),
    onSuccess: () => {
      queries.setQueryData(["session"], { ...session, once: false });
      onChosen?.();
    },
  });
  const differs = again !== "" && again !== pin;
  const ready = old !== "" && pin.length >= session.leastPin && again === pin;
  return (
    <Form onSend={() => ready && choose.mutate()}>
      <PasswordInput
        label={tr("PIN you signed in with")}
        name="old"
        value={old}
        onChange={setOld}
        autoComplete="current-password"
        data-autofocus
      />
      <PasswordInput
        label={tr("New PIN, {leastPin} signs or more", { leastPin: session.leastPin })}
        name="pin"
        value={pin}
        onChange={setPin}
        autoComplete="new-password"
      />
      <PasswordInput
        label={tr("The same once more")}
        name="again"
        value={again}
        onChange={setAgain}
        autoComplete="new-password"
        error={differs ? tr("Not the same as above.") : undefined}
      />
      <Refusal error={choose.error} />
      <Button type="submit" color="now" size="lg" mih={64} loading={choose.isPending} disabled={!ready}>
        {tr("This is my PIN")}
      </Button>
    </Form>
  );
}
