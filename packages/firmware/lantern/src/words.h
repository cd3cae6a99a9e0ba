/* words.h: one line taken apart: G-code (`G1 X10`), or a command of our own (`offset x=-38 y=-9`). */
#pragma once
#include "hw.h"
enum { VERB_LENGTH = 12 };
struct words {
    char letter;      /* of the command: G or M; 0 for a worded one */
    uint16_t number;
    char verb[VERB_LENGTH]; /* of a worded command; empty otherwise */
    uint32_t given;   /* bit i: the word of letter 'A' + i is there */
    float value[26];
};
/* Values of a worded command stand under the capital of their name: x=3 is word 'X'. False when the line is not a command; nothing of it may then be used. Comments after ; are skipped. */
bool words_read(const char *line, struct words *words);
bool words_empty(const char *line);
bool has(const struct words *words, char letter);
float word(const struct words *words, char letter, float otherwise);
