/** Sites. */

import { useQuery } from "@tanstack/react-query";

import { answer, client } from "./client";

export const useSites = () =>
  useQuery({ queryKey: ["sites"], queryFn: () => answer(client.GET("/api/sites")) });
