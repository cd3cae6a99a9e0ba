/* report.h: the settings in use as lines that can be sent back. */
#pragma once
void settings_report(void);
