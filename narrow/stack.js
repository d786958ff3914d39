/** The router asks for a navigator of native stacks as it starts; the web's page never draws one. */
export const createNativeStackNavigator = () => ({ Navigator: () => null });
