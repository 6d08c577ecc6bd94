/** What is kept under the plan of a design, and what of it is asked for. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";

import {
  askGround,
  askReach,
  askRelief,
  dropPicture,
  dropRelief,
  movePins,
  pictureAddress,
  putPicture,
  putRelief,
  readPicture,
  readRelief,
  type ReachAsked,
} from "../../api/client";
import type { Design, Pin } from "../../api/types";
import { useSettled } from "../../shared/useSettled";
import type { Spot } from "../../shared/way";

export function useBackground(designId: string, document: Design, reachAsked: ReachAsked | null) {
  const queries = useQueryClient();
  const reliefKey = useMemo(() => ["relief", designId], [designId]);
  const pictureKey = useMemo(() => ["picture", designId], [designId]);
  const relief = useQuery({ queryKey: reliefKey, queryFn: () => readRelief(designId), staleTime: Infinity });
  const picture = useQuery({
    queryKey: pictureKey,
    queryFn: () => readPicture(designId),
    staleTime: Infinity,
  });
  const keepRelief = useMutation({
    mutationFn: (given: { file: File; system: string | null } | "service") =>
      given === "service"
        ? askRelief(designId, document)
        : putRelief(designId, given.file, document, given.system),
    onSuccess: (made) => queries.setQueryData(reliefKey, made),
  });
  const forgetRelief = useMutation({
    mutationFn: () => dropRelief(designId),
    onSuccess: () => queries.setQueryData(reliefKey, null),
  });
  const keepPicture = useMutation({
    // without a file, the picture that lies there is pinned anew
    mutationFn: ({ file, pins }: { file: File | null; pins: Pin[] }) =>
      file ? putPicture(designId, file, pins) : movePins(designId, pins),
    onSuccess: (made) => queries.setQueryData(pictureKey, { ...made, at: Date.now() }),
  });
  const forgetPicture = useMutation({
    mutationFn: () => dropPicture(designId),
    onSuccess: () => queries.setQueryData(pictureKey, null),
  });
  const model = relief.data ?? null;
  const reach = useSettled(
    ["reach", designId, reachAsked],
    document,
    model && reachAsked ? document : null,
    async (question, signal) => (reachAsked ? askReach(designId, question, reachAsked, signal) : null),
  );
  const groundAt = useCallback(
    async (spots: Spot[]): Promise<(number | null)[]> => {
      const unknown = spots.map(() => null);
      return model ? askGround(designId, spots).catch(() => unknown) : unknown;
    },
    [model, designId],
  );
  const address =
    picture.data && `${pictureAddress(designId)}?at=${(picture.data as { at?: number }).at ?? 0}`;
  const laid = useMemo(
    () => (picture.data && address ? { ...picture.data, address } : null),
    [picture.data, address],
  );
  return {
    relief: model,
    picture: laid,
    reach,
    groundAt,
    keepRelief,
    forgetRelief,
    keepPicture,
    forgetPicture,
  };
}

export type Background = ReturnType<typeof useBackground>;
