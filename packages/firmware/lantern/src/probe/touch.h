/* touch.h: the height of one spot of the plate, touched as often as set; the mean counts. */
#pragma once
#include "bed/shape.h"
#include "option_sense.h"
#if PROBE_KIND != PROBE_KIND_NONE
enum touch { TOUCHING, TOUCHED, NOT_TOUCHED };
/* Why a spot cannot be touched; NULL when it can. */
const char *touch_refuse(struct spot spot);
/* The nearest spot that can be reached. */
struct spot touch_within(struct spot spot);
void touch_begin(struct spot spot);
/* One touch more often or less often than set. */
void touch_begin_times(struct spot spot, int times);
/* Advances; asked every millisecond. NOT_TOUCHED: the probe reads met before it moves. A plate that is not met, or a probe
 * that says it is stuck, stops everything. */
enum touch touch_go_on(void);
/* mm of the plate above the nominal plane: the mean of the touches, and the last of them. */
float touch_height(void);
float touch_last(void);
/* Draws the probe in. */
void touch_end(void);
void touch_stop(void);
#endif
