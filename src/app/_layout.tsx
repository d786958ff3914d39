import { Slot } from 'expo-router';

import { Shell } from '@/screens/shell/Shell';

export default function Layout() {
  return (
    <Shell>
      <Slot />
    </Shell>
  );
}
