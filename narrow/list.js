/** No list here is of this kind. */
export default class FlatList {}
