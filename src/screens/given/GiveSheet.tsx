import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';

import { codeOf, type Given, GIVEN, linkOf } from '@/state/share';
import { Button } from '@/ui/Button';
import { copyText } from '@/ui/files';
import { usePageSize } from '@/ui/Page';
import { Sheet } from '@/ui/Sheet';
import { Type } from '@/ui/Type';

import { Qr } from './Qr';

/** Longer links than this are taken by few programs. Mark: rule of thumb. */
const LONG = 8000;

/** Something to give along as a link that carries all of it, or as a code for another device's camera. */
export function GiveSheet({ given, name, onClose }: { given: Given; name: string; onClose: () => void }) {
  const page = usePageSize();
  const [told, setTold] = useState('');
  const code = useQuery({
    queryKey: ['given code', given.letter, given.text],
    queryFn: () => codeOf(given),
    networkMode: 'always',
    staleTime: Infinity,
  });
  const link = code.data === undefined ? null : linkOf(code.data);
  const what = GIVEN[given.letter];
  return (
    <Sheet title={`Give ${name} along`} onClose={onClose}>
      <Type kind="small">
        {`The link itself holds the whole ${what}; what stands after its # is not sent to any server. Whoever opens it looks at it first and then chooses whether to take it.${given.letter === 't' ? ' Readings, log, hours at home and notes stay here.' : ''}`}
      </Type>
      {link !== null && (
        <>
          <Type kind="small" numberOfLines={3} selectable testID="link">
            {link}
          </Type>
          <Button
            label="Copy the link"
            kind="filled"
            wide
            onPress={async () =>
              setTold(
                (await copyText(link)) ? 'Copied.' : 'The browser does not let it be copied: mark it above.',
              )
            }
            testID="copy-link"
          />
          {told !== '' && (
            <Type kind="small" role="status">
              {told}
            </Type>
          )}
          <Qr text={link} width={Math.min(page.side, 320)} name={`The link to this ${what} as a QR code`} />
          {link.length > LONG && (
            <Type kind="small">It is long: some programs cut such links. A file is safer.</Type>
          )}
        </>
      )}
    </Sheet>
  );
}
