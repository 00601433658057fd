/** How the processes fare that Bexi is made of. */

import { useQuery } from "@tanstack/react-query";

import { answer, client } from "./client";

/** A sentence on processes that ended of late; empty when all run. */
export const useProcesses = () =>
  useQuery({
    queryKey: ["processes"],
    queryFn: () => answer(client.GET("/api/processes")),
    refetchInterval: 20_000,
    retry: false,
  });
