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
import { JOBS_WORDS } from "@/ui/words/jobsWords";

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
    <form
      className="panel space-y-4 p-4"
      onSubmit={(event) => void create(event)}
      noValidate
      aria-label={JOBS_WORDS.newJob}
    >
      <JobFields errors={errors} register={register} />
      <label className="press flex items-center gap-3">
        <input type="checkbox" className="checkbox" {...register("solarMeter")} />
        {JOBS_WORDS.aSecondMeterMeasuresTheSolar}
      </label>
      {problem && <ProblemList problem={problem} />}
      <div className="flex gap-2">
        <button type="submit" className="btn btn-primary press" disabled={isSubmitting}>
          {JOBS_WORDS.makeTheJob}
        </button>
        <button type="button" className="btn press" onClick={onClose}>
          {JOBS_WORDS.close}
        </button>
      </div>
    </form>
  );
}

const POWERS = [
  ["solarKw", JOBS_WORDS.solarInverterKW],
  ["batteryKw", JOBS_WORDS.batteryInverterKW],
] as const;

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
      <Field id="name" label={JOBS_WORDS.nameOfTheJob} error={errors.name?.message}>
        <input {...fieldState("name", errors.name?.message)} autoFocus autoComplete="off" {...register("name")} />
      </Field>
      <Field
        id="place"
        label={JOBS_WORDS.place}
        hint={JOBS_WORDS.streetOrDistrictIfYouLike}
        error={errors.place?.message}
      >
        <input {...fieldState("place", errors.place?.message)} autoComplete="off" {...register("place")} />
      </Field>
      <Field id="system" label={JOBS_WORDS.supply} error={errors.system?.message}>
        <select {...fieldState("system", errors.system?.message)} {...register("system")}>
          <option value="single-phase">{JOBS_WORDS.singlePhaseL1N}</option>
          <option value="split-phase">{JOBS_WORDS.splitPhaseL1L2N}</option>
          <option value="three-phase">{JOBS_WORDS.threePhaseL1L2L3N}</option>
        </select>
      </Field>
      {POWERS.map(([name, label]) => (
        <Field key={name} id={name} label={label} hint={JOBS_WORDS.zeroForNone} error={errors[name]?.message}>
          <input
            {...fieldState(name, errors[name]?.message)}
            inputMode="decimal"
            {...register(name, { setValueAs: (typed) => numberIn(typed, decimal) })}
          />
        </Field>
      ))}
      <Field
        id="arrow"
        label={JOBS_WORDS.thisKitWantsItsCtArrows}
        hint={JOBS_WORDS.makersDifferLookInTheManual}
        error={errors.arrow?.message}
      >
        <select {...fieldState("arrow", errors.arrow?.message)} {...register("arrow")}>
          <option value="to-load">{JOBS_WORDS.towardTheLoads}</option>
          <option value="to-grid">{JOBS_WORDS.towardTheGrid}</option>
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
