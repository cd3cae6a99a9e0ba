/* settings.h: the values that can be changed while running, and stored. */
#pragma once
#include "hw.h"
#include "axes.h"

enum { HOTEND, BED, HEATERS };

struct pid { float p, i, d; };

struct settings {
    float steps[AXES];
    float speed[AXES];
    float accel[AXES];
    float probe_offset[3];
    struct pid pid[HEATERS];
};

extern struct settings settings;

/* Back to the values compiled into the image. */
void settings_reset(void);
