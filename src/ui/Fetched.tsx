import { Component, type ReactNode } from 'react';
import { View } from 'react-native';

import { Button } from './Button';
import { Note } from './Parts';
import { space } from './theme';

/** Says so where a part of the app could not be fetched or broke, and leaves what is around it as it was. */
export class Fetched extends Component<{ children: ReactNode }, { problem: string | null }> {
  state = { problem: null };

  static getDerivedStateFromError(error: unknown) {
    return { problem: error instanceof Error ? error.message.split('\n')[0]! : String(error) };
  }

  render() {
    if (this.state.problem === null) return this.props.children;
    return (
      <View style={{ padding: space.l, gap: space.m }} testID="part-missing">
        <Note>
          {/^Loading module/.test(this.state.problem)
            ? 'This part of Chromatheca could not be fetched. See that its server runs. Once your work is saved, load the page again.'
            : `This part of Chromatheca could not be shown: ${this.state.problem}. Once your work is saved, load the page again.`}
        </Note>
        <Button label="Load again" kind="filled" onPress={() => location.reload()} />
      </View>
    );
  }
}
