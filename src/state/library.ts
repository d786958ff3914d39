import { useQuery } from '@tanstack/react-query';

import { forgetAside, listAside, listCases, rawText } from '@/store/documents';

import { useSession } from './session';

/** The cases of this browser; renewed whenever something was saved. */
export function useCases() {
  const saved = useSession((s) => s.save.kind === 'saved');
  const name = useSession((s) => s.bundle?.case.name);
  return useQuery({
    queryKey: ['library', 'cases', saved, name],
    queryFn: listCases,
    networkMode: 'always',
    placeholderData: (p) => p,
  });
}

/** Documents that were set aside. */
export const useAside = () =>
  useQuery({ queryKey: ['library', 'aside'], queryFn: listAside, networkMode: 'always' });

/** The untouched text of a stored document. */
export const savedText = rawText;
export const forget = forgetAside;
