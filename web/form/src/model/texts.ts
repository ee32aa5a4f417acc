/** The form's own words. What belongs to the application comes with the resolved form. */
export type Language = string;

const texts = {
  en: {
    yes: 'Yes', no: 'No', notSaid: 'Not said', required: '{0} is required.', optional: 'optional', wholeNumber: '{0} must be a whole number.', number: '{0} must be a number.',
    digits: '{0} has more than {1} digits after the point.', atLeast: '{0} must be at least {1}.', atMost: '{0} must be at most {1}.', tooLong: '{0} must be at most {1} characters; it has {2}.',
    email: '{0} must be an e-mail address such as a.wader@example.org.', url: '{0} must be a web address that begins with https://.', character: '{0} contains a character that cannot be stored ({1}). Remove it.', pattern: '{0} is not in the form it must have.',
    choose: 'Choose…', search: 'Type to search', none: 'Nothing found', clear: 'Clear', chooseFile: 'Choose a file', replace: 'Replace', remove: 'Remove', uploading: 'Storing…', uploadFailed: 'The file could not be stored: {0}',
    stars: '{0} of {1}', attention: 'Values that need attention', requiredMark: 'required', empty: 'Nothing entered', next: 'Next', back: 'Back', step: 'Step {0} of {1}', addRow: 'Add to {0}', removeRow: 'Remove row {0}', rowUp: 'Move row {0} up', rowDown: 'Move row {0} down', noRows: 'None yet', rowsFailed: 'These could not be read.', readAgain: 'Read again', total: 'Total', rowNumber: 'Row {0}', openBeside: 'Open {0} beside', makeOne: 'Make a new one', takePhoto: 'Take a photo', foundCount: '{0} found', rowRemoved: 'Row {0} removed', lately: 'Picked lately', pasted: '{0} cells filled.', notPasted: 'Not understood: {0}.', takeBack: 'Take the pasting back',
  },
  nl: {
    yes: 'Ja', no: 'Nee', notSaid: 'Niet opgegeven', required: '{0} is verplicht.', optional: 'facultatief', wholeNumber: '{0} moet een geheel getal zijn.', number: '{0} moet een getal zijn.',
    digits: '{0} heeft meer dan {1} cijfers achter de komma.', atLeast: '{0} moet minstens {1} zijn.', atMost: '{0} mag hoogstens {1} zijn.', tooLong: '{0} mag hoogstens {1} tekens hebben; het zijn er {2}.',
    email: '{0} moet een e-mailadres zijn, zoals a.wader@example.org.', url: '{0} moet een webadres zijn dat met https:// begint.', character: '{0} bevat een teken dat niet kan worden opgeslagen ({1}). Verwijder het.', pattern: '{0} heeft niet de vorm die het moet hebben.',
    choose: 'Kies…', search: 'Typ om te zoeken', none: 'Niets gevonden', clear: 'Wissen', chooseFile: 'Kies een bestand', replace: 'Vervangen', remove: 'Verwijderen', uploading: 'Opslaan…', uploadFailed: 'Het bestand kon niet worden opgeslagen: {0}',
    stars: '{0} van {1}', attention: 'Waarden die aandacht vragen', requiredMark: 'verplicht', empty: 'Niets ingevuld', next: 'Volgende', back: 'Vorige', step: 'Stap {0} van {1}', addRow: 'Toevoegen aan {0}', removeRow: 'Rij {0} weghalen', rowUp: 'Rij {0} omhoog', rowDown: 'Rij {0} omlaag', noRows: 'Nog geen', rowsFailed: 'Deze konden niet gelezen worden.', readAgain: 'Opnieuw lezen', total: 'Totaal', rowNumber: 'Rij {0}', openBeside: '{0} ernaast openen', makeOne: 'Een nieuwe maken', takePhoto: 'Foto maken', foundCount: '{0} gevonden', rowRemoved: 'Rij {0} weggehaald', lately: 'Laatst gekozen', pasted: '{0} cellen gevuld.', notPasted: 'Niet begrepen: {0}.', takeBack: 'Het plakken terugdraaien',
  },
  ar: {
    yes: 'نعم', no: 'لا', notSaid: 'غير محدد', required: '{0} مطلوب.', optional: 'اختياري', wholeNumber: 'يجب أن يكون {0} عددًا صحيحًا.', number: 'يجب أن يكون {0} رقمًا.',
    digits: '{0} فيه أكثر من {1} أرقام بعد الفاصلة.', atLeast: 'يجب ألا يقل {0} عن {1}.', atMost: 'يجب ألا يزيد {0} على {1}.', tooLong: 'يجب ألا يزيد {0} على {1} حرفًا؛ وهو {2}.',
    email: 'يجب أن يكون {0} عنوان بريد إلكتروني.', url: 'يجب أن يبدأ {0} بـ https://.', character: 'يحتوي {0} على حرف لا يمكن حفظه ({1}). أزله.', pattern: '{0} ليس بالصيغة المطلوبة.',
    choose: 'اختر…', search: 'اكتب للبحث', none: 'لا نتائج', clear: 'مسح', chooseFile: 'اختر ملفًا', replace: 'استبدال', remove: 'إزالة', uploading: 'جارٍ الحفظ…', uploadFailed: 'تعذّر حفظ الملف: {0}',
    stars: '{0} من {1}', attention: 'قيم تحتاج إلى انتباه', requiredMark: 'مطلوب', empty: 'لا شيء', next: 'التالي', back: 'السابق', step: 'الخطوة {0} من {1}', addRow: 'أضف إلى {0}', removeRow: 'أزل الصف {0}', rowUp: 'ارفع الصف {0}', rowDown: 'أنزل الصف {0}', noRows: 'لا شيء بعد', rowsFailed: 'تعذرت قراءة هذه.', readAgain: 'اقرأ من جديد', total: 'المجموع', rowNumber: 'الصف {0}', openBeside: 'افتح {0} بجانبه', makeOne: 'أنشئ جديدًا', takePhoto: 'التقط صورة', foundCount: 'عدد النتائج: {0}', rowRemoved: 'أُزيل الصف {0}', lately: 'اختير مؤخرًا', pasted: 'خلايا مُلئت: {0}.', notPasted: 'لم يُفهم: {0}.', takeBack: 'تراجع عن اللصق',
  },
} as const;

/** All tables, for the test that holds them against each other. */
export const allTexts: Record<string, Record<string, string>> = texts;

export type TextKey = keyof (typeof texts)['en'];

export function say(language: Language, key: TextKey, ...values: string[]): string {
  const table = texts[language.split('-')[0] as keyof typeof texts] ?? texts.en;
  return table[key].replace(/\{(\d)\}/g, (_, i: string) => values[Number(i)] ?? '');
}

export const isRightToLeft = (language: Language) => /^(ar|he|fa|ur)\b/.test(language);
