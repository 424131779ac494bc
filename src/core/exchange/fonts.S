# The shipped fonts, as bytes of the program: pages are set in them on every computer alike.
    .section .rodata
    .macro font name, file
    .global \name\()_begin
    .global \name\()_end
    .balign 16
\name\()_begin:
    .incbin "\file"
\name\()_end:
    .endm

    font wren_font_words, "Cabin-Regular.otf"
    font wren_font_words_strong, "Cabin-SemiBold.otf"
    font wren_font_figures, "JetBrainsMono-Regular.ttf"

    .section .note.GNU-stack, "", %progbits
