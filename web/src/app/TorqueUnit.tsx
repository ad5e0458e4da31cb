import { NativeSelect } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { http, take } from "../api/client";
import { useSession } from "../api/queries";
import { torqueUnits } from "../joint/layout/editors";
import { Refusal } from "../ui/Refusal";
import { tr } from "../words/words";

/** Which unit somebody types torques in, on every device, where it is not the site's. */
export function TorqueUnit() {
  const session = useSession();
  const queries = useQueryClient();
  const keep = useMutation({
    mutationFn: (torqueUnit: string) => take(http.PUT("/api/session/unit", { body: { torqueUnit } })),
    onSuccess: (_, torqueUnit) => queries.setQueryData(["session"], session && { ...session, torqueUnit }),
  });
  if (!session) return null;
  return (
    <>
      <NativeSelect
        label={tr("You type torques in")}
        description={tr("A plan keeps the unit that it was typed in; a tool is set in the unit of its scale.")}
        name="torqueUnit"
        value={session.torqueUnit ?? ""}
        onChange={(e) => keep.mutate(e.currentTarget.value)}
        data={[
          { value: "", label: tr("{torqueUnit}, as the site does", { torqueUnit: session.site.torqueUnit }) },
          ...torqueUnits.filter((u) => u !== session.site.torqueUnit),
        ]}
      />
      <Refusal error={keep.error} />
    </>
  );
}
