/** What a pull needs of the gesture package, without its buttons, lists, drawers and former engine. */
import { initialize } from 'react-native-gesture-handler/lib/module/init';

export { GestureObjects as Gesture } from 'react-native-gesture-handler/lib/module/handlers/gestures/gestureObjects';
export { GestureDetector } from 'react-native-gesture-handler/lib/module/handlers/gestures/GestureDetector';
export { View as GestureHandlerRootView } from 'react-native';

initialize();
