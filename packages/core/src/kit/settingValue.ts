/** The value of an option: a number in the option's unit, a switch, or one of its choices. */
export type SettingValue = number | boolean | string;
