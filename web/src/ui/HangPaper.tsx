import { FileInput, NativeSelect, NumberInput, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { useLibrary } from "../api/queries";
import { inBase64 } from "../api/files";
import { LARGEST, shrink } from "../joint/steps/shrink";
import { Dialog } from "./Form";
import type { Place } from "./Papers";
import { Refusal } from "./Refusal";
import { told, tr } from "../words/words";

interface HangPaperProps {
  at: Place;
  onClose: () => void;
  onHung: () => void;
}

/** Hangs a maker's sheet: which file, what it is, at which step, and at which page it opens. A picture is made smaller first. */
export function HangPaper({ at, onClose, onHung }: HangPaperProps) {
  const recipe = useLibrary().data?.recipes.find((r) => r.id === at.recipe);
  const [file, setFile] = useState<File | null>(null);
  const [title, setTitle] = useInputState("");
  const [step, setStep] = useInputState("");
  const [page, setPage] = useState<number>();
  const [id] = useState(() => crypto.randomUUID());
  const [wrong, setWrong] = useState("");
  const isPicture = file?.type.startsWith("image/");
  const hang = useMutation({
    mutationFn: async () => {
      const bytes = isPicture ? (await shrink(file!)).file : await inBase64(file!);
      const where = at.joint ? { joint: at.joint } : { recipe: at.recipe };
      return take(
        http.POST("/api/papers", { body: { id, title: title.trim(), file: bytes, step, page: isPicture ? 0 : (page ?? 0), ...where } }),
      );
    },
    onSuccess: onHung,
    onError: (e) => setWrong(e instanceof Error ? e.message : ""),
  });
  return (
    <Dialog
      title={at.joint ? tr("Hang a sheet at this joint") : tr("Hang a sheet at this recipe")}
      act={tr("Hang it")}
      ready={file !== null && title.trim() !== ""}
      busy={hang.isPending}
      onClose={onClose}
      onAct={() => hang.mutate()}
    >
      <FileInput
        size="md"
        label={tr("Its file")}
        description={tr("A PDF, or a picture of it; at most 12 MB")}
        accept="application/pdf,image/*"
        placeholder={tr("Choose the file")}
        value={file}
        error={
          file && file.size > LARGEST
            ? tr("It has {size} MB; at most 12 MB are taken.", { size: Math.ceil(file.size / (1 << 20)) })
            : undefined
        }
        fileInputProps={{ "aria-label": tr("The sheet’s file"), name: "paper" }}
        onChange={(f) => {
          setFile(f);
          setWrong("");
          if (f && title === "") setTitle(f.name.replace(/\.\w+$/, ""));
        }}
      />
      <TextInput label={tr("What it is")} name="title" maxLength={120} value={title} onChange={setTitle} />
      <NativeSelect label={tr("Where it belongs")} name="step" value={step} onChange={setStep}>
        <option value="">{tr("the whole {joint}", { joint: at.joint ? tr("joint") : tr("recipe") })}</option>
        {recipe?.stations.map((s) => (
          <optgroup key={s.name} label={told(s.name)}>
            {s.steps.map((x) => (
              <option key={x.id} value={x.id}>
                {told(x.text)}
              </option>
            ))}
          </optgroup>
        ))}
      </NativeSelect>
      {!isPicture && (
        <NumberInput
          size="md"
          label={tr("Opened at page")}
          name="page"
          hideControls
          min={1}
          max={5000}
          allowDecimal={false}
          value={page ?? ""}
          onChange={(v) => setPage(typeof v === "number" ? v : undefined)}
        />
      )}
      {wrong && hang.isError ? <Refusal error={hang.error} /> : null}
    </Dialog>
  );
}
