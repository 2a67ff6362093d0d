"use client";

import { zodResolver } from "@hookform/resolvers/zod";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { useForm, type FieldErrors, type UseFormRegister } from "react-hook-form";
import type { z } from "zod";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { starterSchema } from "@/core/job/starterPlan";
import { readNumber, type DecimalSign } from "@/core/readNumber";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { Field, fieldState } from "@/ui/parts/form/Field";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";

/** The few questions that a new job needs; the plan with its meters follows from the answers. */
export function NewJobForm({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const { idFor } = useRepeatableId();
  const {
    register,
    handleSubmit,
    formState: { errors, isSubmitting },
  } = useForm<z.input<typeof starterSchema>, unknown, z.output<typeof starterSchema>>({
    resolver: zodResolver(starterSchema),
    defaultValues: {
      name: "",
      place: "",
      system: "single-phase",
      solarKw: 0,
      batteryKw: 0,
      solarMeter: false,
      arrow: "to-load",
    },
  });

  const create = handleSubmit(async (answers) => {
    const body = JSON.stringify(answers);
    const answer = await callApi("POST", `/api/v1/jobs?id=${idFor(body)}`, madeJobSchema, body).catch(() => undefined);
    if (answer?.kind === "ok") router.push(`/jobs/${answer.value.id}/place`);
    else setProblem(answer ? answer.problem : UNREACHABLE);
  });

  return (
    <form className="panel space-y-4 p-4" onSubmit={(event) => void create(event)} noValidate aria-label="New job">
      <JobFields errors={errors} register={register} />
      <label className="press flex items-center gap-3">
        <input type="checkbox" className="checkbox" {...register("solarMeter")} />A second meter measures the solar on
        its own
      </label>
      {problem && <ProblemList problem={problem} />}
      <div className="flex gap-2">
        <button type="submit" className="btn btn-primary press" disabled={isSubmitting}>
          Make the job
        </button>
        <button type="button" className="btn press" onClick={onClose}>
          Close
        </button>
      </div>
    </form>
  );
}

function JobFields({
  errors,
  register,
}: {
  errors: FieldErrors<z.input<typeof starterSchema>>;
  register: UseFormRegister<z.input<typeof starterSchema>>;
}) {
  const { decimal } = useNumberStyle();
  return (
    <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
      <Field id="name" label="Name of the job" error={errors.name?.message}>
        <input {...fieldState("name", errors.name?.message)} autoFocus autoComplete="off" {...register("name")} />
      </Field>
      <Field id="place" label="Place" hint="Street or district, if you like" error={errors.place?.message}>
        <input {...fieldState("place", errors.place?.message)} autoComplete="off" {...register("place")} />
      </Field>
      <Field id="system" label="Supply" error={errors.system?.message}>
        <select {...fieldState("system", errors.system?.message)} {...register("system")}>
          <option value="single-phase">Single phase (L1, N)</option>
          <option value="split-phase">Split phase (L1, L2, N)</option>
          <option value="three-phase">Three phase (L1, L2, L3, N)</option>
        </select>
      </Field>
      <Field id="solarKw" label="Solar inverter, kW" hint="0 for none" error={errors.solarKw?.message}>
        <input
          {...fieldState("solarKw", errors.solarKw?.message)}
          inputMode="decimal"
          {...register("solarKw", { setValueAs: (typed) => numberIn(typed, decimal) })}
        />
      </Field>
      <Field id="batteryKw" label="Battery inverter, kW" hint="0 for none" error={errors.batteryKw?.message}>
        <input
          {...fieldState("batteryKw", errors.batteryKw?.message)}
          inputMode="decimal"
          {...register("batteryKw", { setValueAs: (typed) => numberIn(typed, decimal) })}
        />
      </Field>
      <Field
        id="arrow"
        label="This kit wants its CT arrows"
        hint="Makers differ: look in the manual"
        error={errors.arrow?.message}
      >
        <select {...fieldState("arrow", errors.arrow?.message)} {...register("arrow")}>
          <option value="to-load">toward the loads</option>
          <option value="to-grid">toward the grid</option>
        </select>
      </Field>
    </div>
  );
}

/** A typed number; what is no number, or could be two, stays text, for the schema to refuse. */
function numberIn(typed: unknown, decimal: DecimalSign): unknown {
  if (typeof typed !== "string") return typed;
  const read = readNumber(typed, decimal);
  return read.kind === "number" ? read.value : typed;
}
