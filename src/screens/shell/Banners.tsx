import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { router } from 'expo-router';
import { type ReactNode } from 'react';
import { View } from 'react-native';

import { type Boot, exportOpenCase } from '@/state/boot';
import { takeUpdate, useUpdate } from '@/state/offline';
import { dismissRefusal, retrySave, useSession } from '@/state/session';
import { Button } from '@/ui/Button';
import { download } from '@/ui/files';
import { printHide } from '@/ui/print';
import { space, themed } from '@/ui/theme';
import { Type } from '@/ui/Type';

const useStyles = themed((p) => ({
  banner: {
    borderBottomWidth: 2,
    borderColor: p.ink,
    backgroundColor: p.raised,
    padding: space.m,
    gap: space.s,
  },
  keys: { flexDirection: 'row', gap: space.s, flexWrap: 'wrap' },
}));

function Banner({ text, children, testID }: { text: string; children?: ReactNode; testID?: string }) {
  const styles = useStyles();
  return (
    <View style={styles.banner} role="alert" testID={testID} {...printHide}>
      <Type kind="label">{text}</Type>
      <View style={styles.keys}>{children}</View>
    </View>
  );
}

const saveAFile = () => {
  const file = exportOpenCase();
  if (file) download(file.name, file.text);
};

/** What must be said before anything else: writes that failed, a stale tab, refused edits, set-aside documents. */
export function Banners() {
  const save = useSession((s) => s.save);
  const refusal = useSession((s) => s.refusal);
  const update = useUpdate((s) => s.waiting);
  const client = useQueryClient();
  const { data } = useQuery<Boot>({ queryKey: ['boot'], queryFn: skipToken });
  const newest = data?.aside[data.aside.length - 1];
  return (
    <>
      {save.kind === 'stale' && (
        <Banner
          testID="stale"
          text="This case was changed in another tab. This tab no longer saves, so that nothing there is overwritten. Download this tab's version if you need it, then reload."
        >
          <Button label="Reload" onPress={() => globalThis.location?.reload()} />
          <Button label="Download this version" onPress={saveAFile} />
        </Banner>
      )}
      {save.kind === 'failed' && (
        <Banner
          testID="save-failed"
          text={`Not saved. ${save.message} Your changes are still here: ${save.full ? 'free some room in the browser' : 'wait a moment'}, then try again, or export the case to a file.`}
        >
          <Button label="Try again" onPress={retrySave} />
          <Button label="Export the case" onPress={saveAFile} />
        </Banner>
      )}
      {refusal !== null && (
        <Banner text={refusal} testID="refusal">
          <Button label="Close" onPress={dismissRefusal} />
        </Banner>
      )}
      {update !== null && (
        <Banner
          testID="update"
          text="A newer version of Chromatheca is ready. Taking it loads this page anew."
        >
          <Button label="Take it" onPress={takeUpdate} />
          <Button label="Later" onPress={() => useUpdate.setState({ waiting: null })} />
        </Banner>
      )}
      {newest && (
        <Banner
          testID="aside"
          text={`Set aside, unchanged: ${newest.what} (${newest.reason}). Download it under Case.`}
        >
          <Button label="Open Case" onPress={() => router.navigate('/case')} />
          <Button label="Close" onPress={() => client.setQueryData<Boot>(['boot'], { aside: [] })} />
        </Banner>
      )}
    </>
  );
}
